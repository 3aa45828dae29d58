/** What a version asks otherwise, category by category that our goods are in; each opens its differences. */
import { useQuery } from '@tanstack/react-query';
import { type RulebookChangeAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Loaded } from '../design/feedback';
import { State } from '../design/State';
import { count } from '../design/words';
import { changeKinds, sayKinds } from './changes';

export function ComparedCategories({ placeId, rulebookId }: { placeId: number; rulebookId: number }) {
  const compared = useQuery(ask(api.channels.comparedInCategories, { params: { id: placeId, rulebookId } }));
  const [open, setOpen] = useState<string>();
  return (
    <Loaded query={compared}>
      {({ items }) =>
        items.length === 0 ? (
          <Box as="p" muted>
            Nothing is asked otherwise in the categories our goods are in.
          </Box>
        ) : (
          <DataTable
            label="What is asked otherwise, by category"
            rows={items}
            keyOf={({ path }) => path}
            chosen={open}
            onChoose={({ path }) => setOpen(path === open ? undefined : path)}
            columns={[
              {
                head: 'The channel’s category',
                sortBy: ({ names }) => names.join(' / '),
                cell: ({ path, names, isGone, changes }) => (
                  <>
                    <button type="button" className="value" aria-expanded={path === open}>
                      <Box as="span" muted>
                        {names.slice(0, -1).map((name) => `${name} / `)}
                      </Box>
                      <b>{names.at(-1)}</b>
                    </button>
                    {isGone && (
                      <Box>
                        <State is="blocked">not in this version</State>
                      </Box>
                    )}
                    {path === open && <Differences changes={changes} />}
                  </>
                ),
              },
              {
                head: 'Listings',
                sortBy: ({ listings }) => listings,
                look: { num: true, wide: 90 },
                cell: ({ listings }) => count(listings),
              },
              { head: 'Asked otherwise', look: { wide: 230 }, cell: ({ changes }) => sayKinds(changes) },
            ]}
          />
        )
      }
    </Loaded>
  );
}

function Differences({ changes }: { changes: readonly RulebookChangeAnswer[] }) {
  return (
    <Box as="ul" small around={[1, 0]}>
      {[...changes]
        .sort((a, b) => changeKinds.indexOf(a.kind) - changeKinds.indexOf(b.kind))
        .map(({ key, name, kind, words }) => (
          <li key={key}>
            <b>{name}</b> {kind}
            {words.length > 0 && `: ${words.join('; ')}`}
          </li>
        ))}
    </Box>
  );
}
