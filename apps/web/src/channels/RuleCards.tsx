/** The rules of a fill in the order in which they are asked: each a sentence with its goods; the open one is edited in place. */
import ArrowUpwardIcon from '@mui/icons-material/ArrowUpward';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ChannelAttributeAnswer } from '@velvet-shelf/contract';
import { type FillRule, beginRule, rulesFor } from '@velvet-shelf/core/fills';
import { useState } from 'react';
import { Box } from '../design/Box';
import { RemoveButton } from '../design/RemoveButton';
import { count } from '../design/words';
import { type FillAt, isAt } from './fillAt';
import { RuleEditor } from './RuleEditor';
import { useCompared } from './compared';
import { sayFillRule } from './sayFill';

export function RuleCards({
  rule,
  attribute,
  at,
  isCounted,
  onChange,
}: {
  rule: FillRule | undefined;
  attribute: ChannelAttributeAnswer;
  /** The goods the fill is for. */
  at: FillAt;
  /** What the attribute tells is of this very rule. */
  isCounted: boolean;
  onChange: (rule: FillRule) => void;
}) {
  const [open, setOpen] = useState(0);
  const alternatives: (FillRule | undefined)[] = rule?.kind === 'first' ? rule.of : [rule];
  const set = (next: FillRule[], opened = open) => {
    const [only] = next;
    if (!only) return;
    setOpen(Math.min(opened, next.length - 1));
    onChange(next.length === 1 ? only : { kind: 'first', of: next });
  };
  const known = alternatives.flatMap((each) => each ?? []);
  const isOne = known.length < 2;
  const goodsOf = (place: number) =>
    attribute.parts
      .filter((part) => part.at !== null && isAt(part.at, at) && (isOne || part.path[0] === place))
      .reduce((sum, { goods }) => sum + goods, 0);
  return (
    <Box col gap={2} role="group" aria-label="Rules">
      {alternatives.map((each, place) => (
        // Rules have no names of their own: one may stand there twice.
        <RuleCard
          key={place}
          place={place}
          rule={each}
          attribute={attribute}
          goods={isCounted ? goodsOf(place) : undefined}
          isOpen={isOne || place === open}
          isOne={isOne}
          onOpen={() => setOpen(place)}
          onChange={(to) => set(isOne ? [to] : known.map((held, i) => (i === place ? to : held)))}
          onUp={() => {
            const next = [...known];
            next.splice(place - 1, 0, ...next.splice(place, 1));
            set(next, place - 1);
          }}
          onRemove={() =>
            set(
              known.filter((_, i) => i !== place),
              place - 1,
            )
          }
        />
      ))}
      {rule && (
        <Box>
          <Button
            color="secondary"
            onClick={() => set([...known, { kind: 'copy', from: attribute.sources[0]?.name ?? '' }], known.length)}
          >
            Another rule where {known.length > 1 ? 'these give' : 'this gives'} nothing
          </Button>
        </Box>
      )}
    </Box>
  );
}

function RuleCard({
  place,
  rule,
  attribute,
  goods,
  isOpen,
  isOne,
  onOpen,
  onChange,
  onUp,
  onRemove,
}: {
  place: number;
  rule: FillRule | undefined;
  attribute: ChannelAttributeAnswer;
  goods: number | undefined;
  isOpen: boolean;
  isOne: boolean;
  onOpen: () => void;
  onChange: (rule: FillRule) => void;
  onUp: () => void;
  onRemove: () => void;
}) {
  const compared = useCompared().data ?? [];
  const words = rule ? sayFillRule(rule, [...attribute.sources, ...compared]) : 'nothing yet';
  return (
    <Box row align="start" gap={3} pad={[2.5, 3]} framed rounded chosen={isOpen && !isOne} surface="card">
      {!isOne && (
        <Box as="span" small muted wide={14} fixed padTop={1}>
          {place + 1}
        </Box>
      )}
      <Box grow minWide={0}>
        {isOpen ? (
          <>
            <TextField
              select
              label="Filled by"
              value={rule?.kind ?? ''}
              sx={{ width: 240, mb: 1.5, mr: 1 }}
              onChange={({ target }) => onChange(begin(target.value as FillRule['kind'], attribute, rule))}
            >
              {rulesFor(attribute.type)
                .filter(({ kind }) => kind !== 'first' || rule?.kind === 'first')
                .map(({ kind, label }) => (
                  <MenuItem key={kind} value={kind}>
                    {label}
                  </MenuItem>
                ))}
            </TextField>
            {rule && <RuleEditor rule={rule} attribute={attribute} onChange={onChange} />}
          </>
        ) : (
          <button type="button" className="value" onClick={onOpen} aria-label={`Rule ${place + 1}: ${words}`}>
            {words}
          </button>
        )}
      </Box>
      {place > 0 && (
        <IconButton size="small" aria-label={`Earlier: rule ${place + 1}`} onClick={onUp}>
          <ArrowUpwardIcon fontSize="small" />
        </IconButton>
      )}
      {!isOne && <RemoveButton of={`rule ${place + 1}`} onClick={onRemove} />}
      <Box as="span" serif textSize={18} strong wide={54} fixed toRight title="Listings that get their value by it">
        {goods === undefined ? '…' : count(goods)}
      </Box>
    </Box>
  );
}

/** Another kind of rule, begun with what the one before it reads. */
function begin(kind: FillRule['kind'], { sources, values }: ChannelAttributeAnswer, before: FillRule | undefined) {
  const from = before && 'from' in before ? before.from : (sources[0]?.name ?? '');
  return beginRule(kind, { from, before, value: values?.[0] ?? '' });
}
