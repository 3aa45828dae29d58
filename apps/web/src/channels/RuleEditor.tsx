/** The rule of a fill, edited by its kind: a source, a fixed value, parts, a translation, the first that is not empty. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { type ChannelAttributeAnswer } from '@velvet-shelf/contract';
import type { FillRule } from '@velvet-shelf/core/fills';
import { RemoveButton } from '../design/RemoveButton';
import { ChannelValue } from './ChannelValue';
import { ConvertEditor } from './ConvertEditor';
import { LayoutEditor } from './LayoutEditor';
import { SourceSelect } from './SourceSelect';
import { Translation } from './Translation';
import { WhenEditor } from './WhenEditor';

export function RuleEditor({
  rule,
  attribute,
  onChange,
}: {
  rule: FillRule;
  attribute: ChannelAttributeAnswer;
  onChange: (rule: FillRule) => void;
}) {
  switch (rule.kind) {
    case 'copy':
      return (
        <SourceSelect
          attribute={attribute}
          label="From"
          value={rule.from}
          onChange={(from) => onChange({ ...rule, from })}
        />
      );
    case 'convert':
      return <ConvertEditor rule={rule} attribute={attribute} onChange={onChange} />;
    case 'fixed':
      return (
        <ChannelValue
          attribute={attribute}
          label="Value"
          width={190}
          value={rule.value}
          onChange={(value) => onChange({ ...rule, value })}
        />
      );
    case 'when':
      return <WhenEditor rule={rule} attribute={attribute} onChange={onChange} />;
    case 'compose':
      return (
        <Box col gap={2}>
          {rule.parts.map((part, i) => {
            const set = (next: (typeof rule.parts)[number]) =>
              onChange({ ...rule, parts: rule.parts.map((part, n) => (n === i ? next : part)) });
            return (
              <Box row key={i}>
                {'from' in part ? (
                  <>
                    <TextField
                      label="Before"
                      value={part.before ?? ''}
                      sx={{ width: 80 }}
                      onChange={(event) => set({ ...part, before: event.target.value })}
                    />
                    <SourceSelect
                      attribute={attribute}
                      label="Part"
                      value={part.from}
                      onChange={(from) => set({ ...part, from })}
                    />
                    <TextField
                      label="After"
                      value={part.after ?? ''}
                      sx={{ width: 80 }}
                      onChange={(event) => set({ ...part, after: event.target.value })}
                    />
                  </>
                ) : (
                  <TextField label="Text" value={part.text} onChange={(event) => set({ text: event.target.value })} />
                )}
                <RemoveButton
                  of={`part ${i + 1}`}
                  onClick={() => onChange({ ...rule, parts: rule.parts.filter((_, n) => n !== i) })}
                />
              </Box>
            );
          })}
          <Box row>
            <Button
              color="secondary"
              onClick={() =>
                onChange({ ...rule, parts: [...rule.parts, { from: attribute.sources[0]?.name ?? '', before: ' ' }] })
              }
            >
              Add a value
            </Button>
            <Button color="secondary" onClick={() => onChange({ ...rule, parts: [...rule.parts, { text: ' ' }] })}>
              Add text
            </Button>
          </Box>
        </Box>
      );
    case 'layout':
      return <LayoutEditor rule={rule} attribute={attribute} onChange={onChange} />;
    case 'translate':
      return <Translation rule={rule} attribute={attribute} onChange={onChange} />;
    case 'first':
      return (
        <Box as="ol" padLeft={5} around={0}>
          {rule.of.map((fillRule, i) => (
            <Box as="li" below={2} key={i}>
              <Box row align="start">
                <RuleEditor
                  rule={fillRule}
                  attribute={attribute}
                  onChange={(next) => onChange({ ...rule, of: rule.of.map((each, n) => (n === i ? next : each)) })}
                />
                <RemoveButton
                  of={`rule ${i + 1}`}
                  onClick={() => onChange({ ...rule, of: rule.of.filter((_, n) => n !== i) })}
                />
              </Box>
            </Box>
          ))}
          <Button
            color="secondary"
            onClick={() =>
              onChange({ ...rule, of: [...rule.of, { kind: 'copy', from: attribute.sources[0]?.name ?? '' }] })
            }
          >
            Add another
          </Button>
        </Box>
      );
  }
}
