/** Steps of a fill in their order: what each does is said, changed, moved and taken out; more are added from a list. */
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import ArrowUpwardIcon from '@mui/icons-material/ArrowUpward';
import CloseIcon from '@mui/icons-material/Close';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ChannelAttributeAnswer } from '@velvet-shelf/contract';
import { type Fit, type StepField, type StepKind, stepsFor } from '@velvet-shelf/core/fills';
import { Box } from '../design/Box';
import { MenuButton } from '../design/MenuButton';

/** A step as it is being written: its settings may still be missing. */
type Draft = Readonly<Record<string, unknown>> & { do: string };

export function StepsEditor({
  attribute,
  fit,
  onChange,
}: {
  attribute: ChannelAttributeAnswer;
  fit: readonly Fit[];
  onChange: (fit: Fit[]) => void;
}) {
  const kinds = stepsFor(attribute.type);
  const offered = attribute.steps.filter(({ step }) => !fit.some((held) => held.do === step.do));
  /** As it is offered for what the channel takes, where it is. */
  const begun = (kind: StepKind) => attribute.steps.find(({ step }) => step.do === kind.name)?.step ?? kind.begin();
  const set = (next: readonly Draft[]) => onChange(next as Fit[]);
  return (
    <Box around={[3, 0]} role="group" aria-label="Steps">
      {fit.map((step, place) => {
        const kind = kinds.find(({ name }) => name === step.do);
        return (
          kind && (
            // Steps have no names of their own: one may stand there twice.
            <StepRow
              key={`${place}-${step.do}`}
              kind={kind}
              step={step}
              place={place}
              onChange={(to) => set(fit.map((held, i) => (i === place ? to : held)))}
              onUp={() => {
                const next = [...fit];
                next.splice(place - 1, 0, ...next.splice(place, 1));
                onChange(next);
              }}
              onRemove={() => onChange(fit.filter((_, i) => i !== place))}
            />
          )
        );
      })}
      <Box row wrap gap={2} above={1}>
        <Box as="span" small muted>
          {fit.length === 0 ? 'Then:' : 'And then:'}
        </Box>
        {offered.map(({ step, label }) => (
          <Button key={step.do} variant="outlined" color="inherit" onClick={() => onChange([...fit, step])}>
            {label}
          </Button>
        ))}
        <MenuButton label="Another step">
          {(close) =>
            kinds.map((kind) => (
              <MenuItem
                key={kind.name}
                dense
                onClick={() => {
                  set([...fit, begun(kind) as Draft]);
                  close();
                }}
              >
                {kind.title}
              </MenuItem>
            ))
          }
        </MenuButton>
      </Box>
    </Box>
  );
}

function StepRow({
  kind,
  step,
  place,
  onChange,
  onUp,
  onRemove,
}: {
  kind: StepKind;
  step: Draft;
  place: number;
  onChange: (step: Draft) => void;
  onUp: () => void;
  onRemove: () => void;
}) {
  return (
    <Box row gap={2} pad={[1, 2]} below={1} framed rounded surface="card" wrap>
      <Box as="span" small muted wide={16} fixed>
        {place + 1}
      </Box>
      <Box as="span" small strong wide={150} fixed>
        {kind.title}
      </Box>
      {kind.fields.map((field) => (
        <Setting
          key={field.name}
          field={field}
          value={step[field.name]}
          onChange={(value) => onChange(settled(step, field.name, value))}
        />
      ))}
      <Box grow />
      {place > 0 && (
        <IconButton size="small" aria-label={`Earlier: ${kind.title}`} onClick={onUp}>
          <ArrowUpwardIcon fontSize="small" />
        </IconButton>
      )}
      <IconButton size="small" aria-label={`Without: ${kind.title}`} onClick={onRemove}>
        <CloseIcon fontSize="small" />
      </IconButton>
    </Box>
  );
}

/** A setting that says nothing is not there. */
function settled(step: Draft, name: string, value: unknown): Draft {
  const others = Object.entries(step).filter(([key]) => key !== name);
  return Object.fromEntries(value === undefined ? others : [...others, [name, value]]) as Draft;
}

function Setting({ field, value, onChange }: { field: StepField; value: unknown; onChange: (value: unknown) => void }) {
  switch (field.kind) {
    case 'one-of':
      return (
        <TextField
          select
          size="small"
          label={field.label}
          value={value ?? ''}
          onChange={({ target }) => onChange(target.value === '' ? undefined : target.value)}
          sx={{ width: 140 }}
        >
          <MenuItem value="">as it is</MenuItem>
          {field.choices.map((choice) => (
            <MenuItem key={choice.value} value={choice.value}>
              {choice.label}
            </MenuItem>
          ))}
        </TextField>
      );
    case 'yes-no':
      return (
        <Box as="label" small row gap={1}>
          <input type="checkbox" checked={value !== false} onChange={({ target }) => onChange(target.checked)} />
          {field.label}
        </Box>
      );
    case 'number':
      return (
        <TextField
          size="small"
          label={field.label}
          value={typeof value === 'number' ? String(value) : ''}
          onChange={({ target }) => onChange(/^\d{1,6}$/.test(target.value) ? Number(target.value) : undefined)}
          sx={{ width: 100 }}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
      );
    case 'list':
      return (
        <TextField
          size="small"
          label={field.label}
          defaultValue={Array.isArray(value) ? value.join(' ') : ''}
          onChange={({ target }) =>
            onChange(
              target.value
                .toLowerCase()
                .split(/[^a-z0-9]+/)
                .filter(Boolean),
            )
          }
          sx={{ width: 220 }}
        />
      );
    case 'text':
      return (
        <TextField
          size="small"
          label={field.label}
          value={typeof value === 'string' ? value : ''}
          onChange={({ target }) => onChange(target.value)}
          sx={{ width: 150 }}
        />
      );
  }
}
