/** Joining a channel with a service of its own: a token for a code, for an id with its secret, or for one that has run out. */
import {
  type AccountReport,
  type Credentials,
  type Outside,
  accountSchema,
  ask,
  credentialsSchema,
  placingSchema,
  readAnswer,
} from './model.js';

const nothingChanged = ' Nothing was changed.';

/** Throws NotLetIn where what was given is not known there. */
async function tokenFor(outside: Outside, grant: Readonly<Record<string, string>>): Promise<Credentials> {
  const answer = await ask(outside, '/api/token', { method: 'POST', body: grant }, nothingChanged);
  return readAnswer(outside, credentialsSchema, answer, 'a token');
}

export const tokenForCode = (outside: Outside, given: { code: string; verifier: string; back: string }) =>
  tokenFor(outside, { grant: 'code', ...given });

export const tokenForSecret = (outside: Outside, given: { id: string; secret: string }) =>
  tokenFor(outside, { grant: 'secret', ...given });

export const tokenRenewed = (outside: Outside, renew: string) => tokenFor(outside, { grant: 'renew', renew });

export const readAccount = async (outside: Outside, token: string): Promise<AccountReport> =>
  readAnswer(outside, accountSchema, await ask(outside, '/api/account', { token }), 'what it says of an account');

export async function readPlacing(
  outside: Outside,
  token: string,
  goods: { language: string; titles: readonly string[] },
): Promise<string[]> {
  const answer = await ask(outside, '/api/placing', { method: 'POST', body: goods, token }, nothingChanged);
  return readAnswer(outside, placingSchema, answer, 'categories of its own').categories;
}
