/** Options of a family, changed in place: names, order, what is hidden, what a value adds to the price, an axis more. */
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ProductAnswer, api } from '@velvet-shelf/contract';
import {
  type AxisDraft,
  type UsedAxis,
  draftPlan,
  noPlan,
  optionOf,
  optionPlanSchema,
  orderValues,
  planOf,
} from '@velvet-shelf/core/catalog';
import { useMemo, useState } from 'react';
import { ask } from '../../api/ask';
import { call } from '../../api/call';
import { useCompany } from '../../company/company';
import { Box } from '../../design/Box';
import { Leaving } from '../../design/Leaving';
import { Ordered } from '../../design/Ordered';
import { ProblemBox, useTell } from '../../design/feedback';
import { useSettled } from '../../design/settled';
import { plural, sayBecoming } from '../../design/words';
import { AxisValues } from './AxisValues';
import { NewAxis, type SaidValue } from './NewAxis';

interface OptionsEditorProps {
  family: ProductAnswer;
  axes: readonly UsedAxis[];
  onDone: () => void;
}

export function OptionsEditor({ family, axes: now, onDone }: OptionsEditorProps) {
  // As they were when one began: what somebody else makes of them meanwhile is refused when it is saved, and nothing is lost.
  const [{ was, axes }] = useState({ was: family.plan ?? noPlan, axes: now });
  const [language] = useCompany().languages;
  const queries = useQueryClient();
  const tell = useTell();
  const [draft, setDraft] = useState(() => draftPlan(axes, was));
  const [added, setAdded] = useState<readonly SaidValue[]>([]);
  const plan = useMemo(() => planOf(draft, was.axes.length > 0 ? [] : axes.map(({ key }) => key)), [draft, was, axes]);
  const read = useMemo(() => optionPlanSchema.safeParse(plan), [plan]);
  const faults = read.success ? [] : read.error.issues.map(({ message }) => message);
  const isChanged = added.length > 0 || JSON.stringify(draft) !== JSON.stringify(draftPlan(axes, was));
  const body = useMemo(
    () => ({ plan, was, values: added.map((value) => ({ ...value, was: null })) }),
    [plan, was, added],
  );
  const settled = useSettled(body);
  const isTried = isChanged && read.success;
  const params = { id: family.id };
  const tried = useQuery({
    ...ask(api.options.tryOut, { params, body: settled }),
    enabled: isTried,
    retry: false,
    gcTime: 0,
  });
  const save = useMutation({
    mutationFn: () => call(api.options.save, { params, body }),
    onSuccess: (effect) => {
      setDraft(draftPlan(axes, was));
      setAdded([]);
      tell(`Saved; ${sayBecoming(effect, true)}`);
      void queries.invalidateQueries();
      onDone();
    },
  });
  const change = (at: number, to: Partial<AxisDraft>) =>
    setDraft((all) => all.map((axis, i) => (i === at ? { ...axis, ...to } : axis)));
  const countOf = (axis: string, value: string) =>
    family.siblings.filter(({ id, options }) => optionOf({ id, options: Object.fromEntries(options) }, axis) === value)
      .length;
  const effect = settled === body ? tried.data : undefined;
  return (
    <Box col gap={4} above={1}>
      <Ordered
        label="Options"
        ids={draft.map((axis) => axis.was)}
        nameOf={(id) => draft.find((axis) => axis.was === id)?.name ?? ''}
        onOrder={(ids) => setDraft((all) => ids.flatMap((id) => all.find((axis) => axis.was === id) ?? []))}
      >
        {(id, place, handle) => {
          const axis = draft[place - 1];
          if (!axis) return null;
          const kind = axes.find(({ key }) => key === id)?.kind ?? 'text';
          return (
            <AxisValues
              axis={axis}
              handle={
                <span {...handle} aria-label={`Move ${axis.name}`} className="drag">
                  <DragIndicatorIcon fontSize="small" />
                </span>
              }
              countOf={(value) => countOf(axis.was, value)}
              onChange={(to) => change(place - 1, to)}
              onSort={() => {
                const sorted = orderValues(
                  axis.values.map(({ value }) => value),
                  { kind, language },
                );
                change(place - 1, {
                  isOrdered: false,
                  values: [...axis.values].sort((a, b) => sorted.indexOf(a.value) - sorted.indexOf(b.value)),
                });
              }}
            />
          );
        }}
      </Ordered>
      <NewAxis family={family} taken={draft.map(({ name }) => name)} added={added} onAdd={setAdded} />
      <Box surface="brass" rounded pad={[2.5, 3]}>
        {save.error && <ProblemBox error={save.error} title="Nothing was saved" />}
        {isTried && tried.error && <ProblemBox error={tried.error} />}
        {faults.map((fault) => (
          <Box tone="blocked" small key={fault}>
            {fault}
          </Box>
        ))}
        <Box row>
          <Box grow small role="status">
            {!isChanged
              ? 'Nothing is changed yet.'
              : effect
                ? [
                    sayBecoming(effect),
                    ...(effect.leaving > 0
                      ? [
                          `${plural(effect.leaving, 'listing leaves its assortment', 'listings leave their assortment')}`,
                        ]
                      : []),
                  ].join('; ')
                : isTried
                  ? 'trying what it would do…'
                  : ''}
          </Box>
          <Button color="inherit" onClick={onDone}>
            {isChanged ? 'Put back' : 'Close'}
          </Button>
          <Button
            variant="contained"
            disabled={!isChanged || !read.success || save.isPending}
            onClick={() => save.mutate()}
          >
            Save options
          </Button>
        </Box>
      </Box>
      <Leaving unsaved={isChanged ? 1 : 0} what="change of options" />
    </Box>
  );
}
