/** ./velvet: reads what is asked and hands it on. */
import { parseArgs } from 'node:util';
import { Fault, say } from './say.mjs';

const help = `Velvet Shelf

  ./velvet demo     the application with the demo's goods; prints "ready" and the login
      --port P      listen on port P
      --fresh       begin again: throws the demo's data away
      --size 100k   the large generated catalogue (1k, 10k, 100k)
      --bare        the demo's set-up without any goods read in
      --no-open     accepted for scripts; a browser is never opened
  ./velvet start    the application without demo data; prints "ready" and the code of the first visit
  ./velvet code     another code for the first visit, as long as nobody owns the shelf
  ./velvet password E-MAIL
                    a new password for somebody who has lost hers
  ./velvet test     lint, types, unit, integration and end-to-end tests
      --only NAME   one of: lint, unit, integration, e2e
  ./velvet bench    benchmarks, as ratios to a baseline of the same run
      --json        one JSON line a benchmark
      --size N      variants: 10000, 100000 (both where absent)
      --only NAME   one benchmark
  ./velvet help     this

DATABASE_URL      use this PostgreSQL instead of a private one
`;

const [name = 'help', ...rest] = process.argv.slice(2);

try {
  const { values, positionals } = parseArgs({
    args: rest,
    allowPositionals: name === 'password',
    options: {
      port: { type: 'string' },
      fresh: { type: 'boolean', default: false },
      bare: { type: 'boolean', default: false },
      size: { type: 'string' },
      'no-open': { type: 'boolean', default: false },
      json: { type: 'boolean', default: false },
      only: { type: 'string' },
    },
  });
  switch (name) {
    case 'demo':
    case 'start': {
      const { serve } = await import('./serve.mjs');
      await serve({ demo: name === 'demo', ...values });
      break;
    }
    case 'code':
    case 'password': {
      if (name === 'password' && positionals.length !== 1)
        throw new Fault('Whose password?', 'Say the e-mail address: ./velvet password iris@mosswick.example');
      const { terminal } = await import('./terminal.mjs');
      await terminal([name, ...positionals]);
      break;
    }
    case 'test': {
      const { test } = await import('./test.mjs');
      process.exitCode = await test(values);
      break;
    }
    case 'bench': {
      const { bench } = await import('./bench.mjs');
      process.exitCode = await bench(values);
      break;
    }
    case 'help':
    case '--help':
      say(help);
      break;
    default:
      throw new Fault(`There is no “${name}”`, 'See ./velvet help.');
  }
} catch (error) {
  if (error instanceof Fault || error?.code?.startsWith?.('ERR_PARSE_ARGS')) {
    process.stderr.write(`${error.message}\n${error.advice ?? 'See ./velvet help.'}\n`);
    process.exit(1);
  }
  throw error;
}
