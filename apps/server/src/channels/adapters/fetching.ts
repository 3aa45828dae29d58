/** A channel that fetches feeds from their addresses, reports on them item by item, and has a catalogue of its own to look things up in. */
import { z } from 'zod';
import { type ChannelAdapter, ask, readAnswer, reportSchema } from './model.js';

const patience = 60_000;
const staysUp = ' The file stays up; try again later.';
const itemSchema = z.object({ goods: z.record(z.string(), z.unknown()) });

export const fetching: ChannelAdapter = {
  kind: 'fetching',
  offer: async (outside, body) =>
    readAnswer(
      outside,
      reportSchema,
      await ask(outside, '/api/fetch', { method: 'POST', body, patience }, staysUp),
      'a report',
    ),
  report: async (outside, number) =>
    readAnswer(
      outside,
      reportSchema,
      await ask(outside, `/api/reports/${encodeURIComponent(number)}`, { patience }, staysUp),
      'a report',
    ),
  item: async (outside, identifier) => {
    const answer = await ask(outside, `/api/goods/${encodeURIComponent(identifier)}`, { patience: 20_000 });
    return answer.status === 404 ? undefined : readAnswer(outside, itemSchema, answer, 'an item').goods;
  },
};
