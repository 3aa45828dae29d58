/**
 * Reading in a process apart, with a ceiling for its memory and its time: what a stranger's file does to the reader, it does
 * to nobody else. One that waits is kept for the next file.
 */
import { type ChildProcess, fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { type FileRow, type Format, type Reading, UnreadableFile } from '@velvet-shelf/core/tabular';
import type { Answer, Looked, Order } from './orders.js';

/** Memory of the process, and of that what JavaScript may hold; bytes and megabytes. */
const mostMemory = 1_200_000_000;
const mostHeap = 800;
/** Milliseconds until the next answer. */
const patience = 60_000;
const watchEvery = 200;
const pageSize = 4096;
/** A process that has grown is not kept. */
const keptMemory = 300_000_000;
const keptMilliseconds = 60_000;

const script = fileURLToPath(import.meta.resolve('@velvet-shelf/server/reader'));

let idle: { child: ChildProcess; leave: NodeJS.Timeout } | undefined;

/** What a file is (unless its reading is given; `format` is what a person says it is), its columns and its first rows. Throws UnreadableFile. */
export async function lookAt(
  path: string,
  { reading, format }: { reading?: Reading | undefined; format?: Format | undefined } = {},
): Promise<Looked> {
  const reader = openReader();
  try {
    const answer = await reader.ask({ do: 'look', path, reading, format });
    if (!('looked' in answer)) throw new Error('The reader answered something else');
    return answer.looked;
  } finally {
    reader.close();
  }
}

/** Rows below the header, some hundreds at a time. Throws UnreadableFile where the file breaks off. */
export async function* rowsApart(
  path: string,
  reading: Reading,
  columns: readonly string[],
): AsyncGenerator<FileRow[]> {
  const reader = openReader();
  try {
    let answer = await reader.ask({ do: 'rows', path, reading, columns });
    while ('rows' in answer) {
      yield answer.rows;
      answer = await reader.ask({ do: 'more' });
    }
  } finally {
    reader.close();
  }
}

interface Reader {
  ask(order: Order): Promise<Answer>;
  close(): void;
}

function openReader(): Reader {
  const child = takeChild();
  const came: Answer[] = [];
  let waiting: { resolve: (answer: Answer) => void; reject: (error: Error) => void } | undefined;
  let fault: Error | undefined;
  let isAtWork = false;
  const fail = (error: Error) => {
    fault ??= error;
    waiting?.reject(fault);
    waiting = undefined;
  };
  const onMessage = (answer: Answer) => {
    if (!('rows' in answer)) isAtWork = false;
    if (waiting) waiting.resolve(answer);
    else came.push(answer);
    waiting = undefined;
  };
  const onExit = () => fail(new UnreadableFile('Reading it broke off: it is damaged, or made to do harm'));
  child.on('message', onMessage);
  child.once('exit', onExit);
  child.once('error', fail);
  const watch = setInterval(() => {
    if (memoryOf(child) <= mostMemory) return;
    fail(
      new UnreadableFile(`Reading it takes more than ${mostMemory / 1e6} MB of memory: split it, or save it as CSV`),
    );
    child.kill('SIGKILL');
  }, watchEvery);
  return {
    async ask(order) {
      if (fault) throw fault;
      if (order.do !== 'more') isAtWork = true;
      child.send(order);
      const answer = came.shift() ?? (await answerWithin());
      if ('unreadable' in answer) throw new UnreadableFile(answer.unreadable);
      if ('fault' in answer) throw new Error(answer.fault);
      return answer;
    },
    close() {
      clearInterval(watch);
      child.off('message', onMessage).off('exit', onExit).off('error', fail);
      // In the middle of a file it is of no use for another one.
      if (isAtWork || fault || memoryOf(child) > keptMemory) child.kill('SIGKILL');
      else keepChild(child);
    },
  };

  function answerWithin(): Promise<Answer> {
    return new Promise((resolve, reject) => {
      const late = setTimeout(() => {
        fail(new UnreadableFile(`Reading it takes more than ${patience / 1000} seconds: split it, or save it as CSV`));
        child.kill('SIGKILL');
      }, patience);
      const settle =
        <T>(done: (value: T) => void) =>
        (value: T) => {
          clearTimeout(late);
          done(value);
        };
      waiting = { resolve: settle(resolve), reject: settle(reject) };
    });
  }
}

function takeChild(): ChildProcess {
  if (idle && idle.child.exitCode === null && idle.child.connected) {
    const { child, leave } = idle;
    clearTimeout(leave);
    idle = undefined;
    child.removeAllListeners('exit');
    child.ref();
    child.channel?.ref();
    return child;
  }
  return fork(script, [], {
    serialization: 'advanced',
    execArgv: [`--max-old-space-size=${mostHeap}`],
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
}

function keepChild(child: ChildProcess): void {
  if (idle) {
    child.kill('SIGKILL');
    return;
  }
  const leave = setTimeout(() => {
    idle = undefined;
    child.kill('SIGKILL');
  }, keptMilliseconds);
  leave.unref();
  child.once('exit', () => {
    if (idle?.child === child) idle = undefined;
  });
  child.unref();
  child.channel?.unref();
  idle = { child, leave };
}

/** Resident memory in bytes; 0 where the system does not tell. */
function memoryOf(child: ChildProcess): number {
  try {
    return Number(readFileSync(`/proc/${child.pid}/statm`, 'utf8').split(' ')[1]) * pageSize;
  } catch {
    return 0;
  }
}
