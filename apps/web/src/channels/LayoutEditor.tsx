/** A text laid out of blocks: added, put in order by drag or keys, each with what it shows. */
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ChannelAttributeAnswer } from '@velvet-shelf/contract';
import { type Block, type FillRule, beginBlock, blocks, labelOfBlock } from '@velvet-shelf/core/fills';
import { useState } from 'react';
import { Box } from '../design/Box';
import { MenuButton } from '../design/MenuButton';
import { Ordered } from '../design/Ordered';
import { RemoveButton } from '../design/RemoveButton';
import { SourceSelect } from './SourceSelect';

type Layout = Extract<FillRule, { kind: 'layout' }>;

export function LayoutEditor({
  rule,
  attribute,
  onChange,
}: {
  rule: Layout;
  attribute: ChannelAttributeAnswer;
  onChange: (rule: FillRule) => void;
}) {
  // Blocks have no names: each keeps a number for as long as it is edited.
  const [ids, setIds] = useState(() => rule.blocks.map((_, i) => i));
  const shown = rule.blocks.map((_, i) => ids[i] ?? i);
  const set = (list: readonly Block[], numbers: readonly number[]) => {
    setIds([...numbers]);
    onChange({ ...rule, blocks: [...list] });
  };
  const blockOf = (id: number) => rule.blocks[shown.indexOf(id)];
  const add = (name: string) => {
    const given = { from: attribute.sources[0]?.name ?? '', picture: attribute.pictures[0]?.name ?? '' };
    set([...rule.blocks, beginBlock(name, given)], [...shown, Math.max(-1, ...shown) + 1]);
  };
  return (
    <Box col gap={2}>
      <Ordered
        label="Blocks"
        ids={shown}
        nameOf={(id) => (blockOf(id) ? labelOfBlock(blockOf(id) as Block) : '')}
        onOrder={(order) =>
          set(
            order.flatMap((id) => blockOf(id) ?? []),
            order,
          )
        }
      >
        {(id, place, handle) => {
          const block = blockOf(id);
          if (!block) return null;
          const change = (to: Block) =>
            set(
              rule.blocks.map((each) => (each === block ? to : each)),
              shown,
            );
          return (
            <Box row align="start" gap={1.5} below={1.5}>
              <span className="drag" {...handle} aria-label={`Move ${labelOfBlock(block)}, place ${place}`}>
                <DragIndicatorIcon fontSize="small" />
              </span>
              <Box as="span" small muted wide={130} fixed>
                {labelOfBlock(block)}
              </Box>
              <Box grow>
                <BlockFields block={block} attribute={attribute} onChange={change} />
              </Box>
              <RemoveButton
                of={`block ${place}`}
                onClick={() =>
                  set(
                    rule.blocks.filter((each) => each !== block),
                    shown.filter((each) => each !== id),
                  )
                }
              />
            </Box>
          );
        }}
      </Ordered>
      <Box row>
        <MenuButton label="Add a block" variant="outlined" size="small">
          {(close) =>
            blocks.map(({ name, label }) => (
              <MenuItem
                key={name}
                onClick={() => {
                  close();
                  add(name);
                }}
              >
                {label}
              </MenuItem>
            ))
          }
        </MenuButton>
      </Box>
    </Box>
  );
}

function BlockFields({
  block,
  attribute,
  onChange,
}: {
  block: Block;
  attribute: ChannelAttributeAnswer;
  onChange: (block: Block) => void;
}) {
  const { sources, pictures } = attribute;
  switch (block.block) {
    case 'heading':
    case 'words':
      return (
        <TextField
          fullWidth
          size="small"
          label={block.block === 'heading' ? 'Heading' : 'Words'}
          multiline={block.block === 'words'}
          value={block.words}
          onChange={({ target }) => onChange({ ...block, words: target.value })}
        />
      );
    case 'text':
      return (
        <SourceSelect
          attribute={attribute}
          label="Text"
          value={block.from}
          onChange={(from) => onChange({ ...block, from })}
        />
      );
    case 'picture':
      return (
        <SourceSelect
          attribute={attribute}
          of={pictures}
          label="Pictures"
          value={block.from}
          onChange={(from) => onChange({ ...block, from })}
        />
      );
    case 'list':
      return (
        <Autocomplete
          multiple
          size="small"
          disableCloseOnSelect
          options={sources.map(({ name }) => name)}
          getOptionLabel={(name) => sources.find((source) => source.name === name)?.label ?? name}
          value={block.of}
          onChange={(_, of) => onChange({ ...block, of })}
          renderInput={(params) => <TextField {...params} label="Attributes" />}
        />
      );
    case 'logo':
      return (
        <Box row gap={1.5}>
          <TextField
            fullWidth
            size="small"
            label="Address of the picture"
            value={block.address}
            onChange={({ target }) => onChange({ ...block, address: target.value })}
          />
          <TextField
            size="small"
            label="In words"
            value={block.words}
            onChange={({ target }) => onChange({ ...block, words: target.value })}
          />
        </Box>
      );
  }
}
