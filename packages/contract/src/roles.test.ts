import { describe, expect, it } from 'vitest';
import { type Endpoint, roles } from './endpoint.js';
import { api } from './index.js';

const endpoints = Object.values(api).flatMap((capability) => Object.values<Endpoint>(capability));

function rolesPage(): string {
  const parts = (['anyone', ...roles] as const).map((role) => {
    const lines = endpoints
      .filter((endpoint) => endpoint.role === role)
      .map(({ method, path, summary }) => `| \`${method} ${path}\` | ${summary.replaceAll('|', '\\|')} |`);
    return [`## ${role}`, '', '| request | does |', '| --- | --- |', ...lines.sort(), ''].join('\n');
  });
  return [
    '# Who may do what',
    '',
    'Made from the contract by `packages/contract/src/roles.test.ts`; `npx vitest run --project unit -u roles` writes it anew.',
    'Each role may also do what those above it may do.',
    '',
    ...parts,
  ].join('\n');
}

describe('roles', () => {
  it('stand in docs/roles.md as they stand in the contract', async () => {
    await expect(rolesPage()).toMatchFileSnapshot('../../../docs/roles.md');
  });

  it('let nobody without a role change anything but their own session, or by a secret that was told them', () => {
    const open = endpoints.filter(({ role, method }) => role === 'anyone' && method !== 'GET');
    expect(open.map(({ path }) => path).sort()).toEqual(['/api/first-run', '/api/invited/:token', '/api/session']);
  });

  it('are at least an editor for what changes goods, and a publisher for what goes out', () => {
    const viewers = endpoints.filter(({ role, method }) => role === 'viewer' && method !== 'GET');
    expect(viewers.map(({ method, path }) => `${method} ${path}`).sort()).toMatchInlineSnapshot(`
      [
        "DELETE /api/session",
        "POST /api/bulk/count",
        "POST /api/compose/try",
        "POST /api/dictionary/:id/kind/try",
        "POST /api/dictionary/computed/try",
        "POST /api/families/propose",
        "POST /api/pictures/place",
        "POST /api/places/:id/fills/:attribute/goods",
        "POST /api/views",
        "PUT /api/session/password",
      ]
    `);
  });
});
