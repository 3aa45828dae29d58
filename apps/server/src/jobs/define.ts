/** Kinds of jobs, and calls a request waits for: each room lists its own in its `jobs.ts`, `rooms.ts` registers them. */
import type { ZodType } from 'zod';
import type { Database, Executor } from '../db/client.js';
import type { Services } from '../http/route.js';

export interface JobContext<Input = unknown> {
  db: Database;
  services: Services;
  id: number;
  input: Input;
  checkpoint: Record<string, unknown> | null;
  /** Tells how far it is; counts, never guesses. */
  progress(done: number, total: number): Promise<void>;
  /** In the transaction of the chunk. */
  saveCheckpoint(on: Executor, checkpoint: Record<string, unknown>): Promise<void>;
  /** Whether somebody wishes it to stop. Asked in a transaction, no wish comes after the answer until that has ended. */
  cancelled(on?: Executor): Promise<boolean>;
  /** Lets the job wait, without a thread, and run again from this checkpoint in so many milliseconds; `run` ends right after. */
  park(checkpoint: Record<string, unknown>, milliseconds: number): void;
  /** Ends the job in the transaction of its last change, so that it is never done once more. */
  finish(on: Executor): Promise<void>;
  /** The same of a job that cannot be done, with the reason. */
  fail(on: Executor, reason: string): Promise<void>;
}

/** A job whatever it takes, as those know it who run it. */
export interface AnyJob {
  kind: string;
  /** Times it is begun without coming to a checkpoint, before it is given up. */
  tries: number;
  /** One at a time: what is made while another runs waits for its end. */
  isAlone: boolean;
  run(context: JobContext): Promise<void>;
  failed?(context: JobContext, fault: Error): Promise<void>;
}

/** A job as those know it who make one: with what it takes. */
export interface JobKind<Input> extends AnyJob {
  input: ZodType<Input>;
}

interface JobDefinition<Input> {
  kind: string;
  /** What stands in the job's row. */
  input: ZodType<Input>;
  /** Does it, from its checkpoint on; safe to run twice. What it needs is loaded here, so that a thread loads nothing else. */
  run(context: JobContext<Input>): Promise<void>;
  /** Puts right what a job leaves that cannot go on; safe to run twice, like the job itself. */
  failed?(context: JobContext<Input>, fault: Error): Promise<void>;
  tries?: number;
  isAlone?: boolean;
}

const usualTries = 5;

export function defineJob<Input>({
  kind,
  input,
  run,
  failed,
  tries = usualTries,
  isAlone = false,
}: JobDefinition<Input>): JobKind<Input> {
  const read = (context: JobContext): JobContext<Input> => ({ ...context, input: input.parse(context.input) });
  return {
    kind,
    input,
    tries,
    isAlone,
    run: async (context) => run(read(context)),
    ...(failed ? { failed: async (context: JobContext, fault: Error) => failed(read(context), fault) } : {}),
  };
}

/** A fault that passes by itself, as a thread met it: the same done once more succeeds. */
export class Passing extends Error {}

/** What a request has done in a thread, and waits for. */
export interface Call<Input, Answer> {
  name: string;
  run(services: Services, input: Input): Promise<Answer>;
}

export const defineCall = <Input, Answer>(call: Call<Input, Answer>): Call<Input, Answer> => call;

const jobs = new Map<string, AnyJob>();
const calls = new Map<string, Call<never, unknown>>();

export function registerJobs(kinds: readonly AnyJob[]): void {
  for (const each of kinds) jobs.set(each.kind, each);
}

export function registerCalls(list: readonly Call<never, unknown>[]): void {
  for (const each of list) calls.set(each.name, each);
}

export const jobOf = (kind: string): AnyJob | undefined => jobs.get(kind);

export function callOf(name: string): Call<never, unknown> {
  const call = calls.get(name);
  if (!call) throw new Error(`There is no call “${name}”`);
  return call;
}
