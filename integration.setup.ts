/** A stage for each file, from whoever `VELVET_STAGES` says hands them out; it is struck when this process has ended. */
import { get } from 'node:http';
import { createInterface } from 'node:readline';
import { expect } from 'vitest';

const { VELVET_STAGES: stages } = process.env;
if (stages !== undefined) {
  const said = await new Promise<string>((resolve, reject) => {
    const asked = get(`${stages}/${expect.getState().testPath?.split('/').at(-1) ?? ''}`, (answer) => {
      const lines = createInterface({ input: answer }).once('line', resolve);
      lines.once('close', () => reject(new Error('No stage was handed out')));
      // It stays open as long as we run, and keeps nobody from ending.
      answer.socket.unref();
    });
    asked.once('error', reject);
  });
  const { fault, ...env } = JSON.parse(said) as Record<string, string>;
  if (fault !== undefined) throw new Error(fault);
  Object.assign(process.env, env);
}
