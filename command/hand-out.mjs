/** Hands stages to test files: each asks for one over HTTP, and has it for as long as it stays connected. */
import { createServer } from 'node:http';
import { basename } from 'node:path';

/** `take(name)` raises what the file of that name plays on; answers the address to ask at, and how to end. */
export async function handOut(take) {
  const server = createServer((request, response) => {
    const gone = new Promise((resolve) => response.once('close', resolve));
    void (async () => {
      const stage = await take(basename(request.url));
      response.write(`${JSON.stringify({ ...stage.env, VELVET_TEST_URL: stage.url })}\n`);
      await gone;
      await stage.strike();
    })().catch((fault) => response.end(`${JSON.stringify({ fault: String(fault) })}\n`));
  });
  server.requestTimeout = 0;
  await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    url: `http://127.0.0.1:${server.address().port}`,
    end: () => {
      server.close();
      server.closeAllConnections();
    },
  };
}
