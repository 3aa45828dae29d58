/** The page that documents the checks is made from what each says of itself. */
import { expect, it } from 'vitest';
import { checkMeta, collectiveChecks, familyChecks, itemChecks, quota, valueChecks } from './index.js';

const mends = {
  catalog: 'the goods',
  fit: 'a step of the fill',
  translate: 'a translation',
  axis: 'what fills an axis',
  assortment: 'which goods the place gets',
} as const;

const cell = (text: string) => text.replaceAll('|', '\\|').replaceAll('\n', ' ');

function checksPage(): string {
  const looksAt = new Map<string, string>([
    ...valueChecks.map(({ meta }) => [meta.id, 'a value'] as const),
    ...itemChecks.map(({ meta }) => [meta.id, 'an item'] as const),
    ...familyChecks.map(({ meta }) => [meta.id, 'a family'] as const),
    ...[...collectiveChecks, quota].map(({ meta }) => [meta.id, 'a whole place'] as const),
  ]);
  const ruled = new Map(
    [...valueChecks, ...itemChecks, ...familyChecks, ...collectiveChecks, quota].flatMap(({ meta, settings }) =>
      settings
        ? [
            [
              meta.id,
              Object.keys(settings.shape)
                .map((name) => `\`${name}\``)
                .join(', '),
            ] as const,
          ]
        : [],
    ),
  );
  const examples = new Map(
    valueChecks.map(
      ({ meta, examples: { fail } }) => [meta.id, fail.find((value) => typeof value === 'string') ?? ''] as const,
    ),
  );
  const rows = [...checkMeta.values()].map(
    ({ id, severity, describes, fix }) =>
      `| \`${id}\` | ${severity} | ${cell(describes)} | ${looksAt.get(id) ?? 'whether there is a value'} | ${ruled.get(id) ?? ''} | ${mends[fix]} | ${cell(examples.get(id) ?? '')} |`,
  );
  return [
    '# Checks',
    '',
    'Made from `packages/core/src/checks` by `page.test.ts` there; `npx vitest run --project unit -u checks/page` writes it anew.',
    'A check with settings holds where a rule of the rulebook gives it some: `{"check": id, …}`; the others hold where an',
    'attribute has the limit or the type they are about.',
    '',
    '| check | weight | demands | looks at | settings | mended by | such a value fails |',
    '| --- | --- | --- | --- | --- | --- | --- |',
    ...rows.sort(),
    '',
  ].join('\n');
}

it('stands in docs/checks.md', async () => {
  await expect(checksPage()).toMatchFileSnapshot('../../../../docs/checks.md');
});
