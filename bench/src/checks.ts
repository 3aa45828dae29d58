/** The checks JSON Schema can say, findings built, against Ajv compiled from the same category's exported schema. */
import { Ajv2020 } from 'ajv/dist/2020.js';
import {
  type CompiledCheck,
  type Item,
  type Params,
  compileValueChecks,
  itemChecks,
  schemaChecks,
  valueChecks,
} from '@velvet-shelf/core/checks';
import { attributesFor, plainChannelValue, toJsonSchema } from '@velvet-shelf/core/rulebooks';
import { shippedRulebooks } from '@velvet-shelf/server/channels/shipped';
import { type BenchLine, compare } from './timing.js';

const category = 'lighting/plant-lighting/grow-lamps';

/** Items of which every tenth is wrong in one way or another. */
function items(count: number): Item[] {
  return Array.from({ length: count }, (_, i) => {
    const wrong = i % 10 === 0 ? (i / 10) % 5 : -1;
    return {
      own: `S-${i}`,
      short:
        wrong === 0
          ? 'Perchlight table lamp '.repeat(9)
          : `Perchlight table lamp for plants, ${i % 40} W, Sage, no. ${i}`,
      ...(wrong === 1
        ? {}
        : {
            long: `A lamp for herbs on a dark sill. It stands firm, warms little, and is easy on the eye. Number ${i}.`,
          }),
      page: wrong === 2 ? '/goods/a' : `https://shop.mosswick.example/goods/${i}`,
      leavesIn: 0,
      asks: { kind: 'money', minor: wrong === 3 ? 0 : 1000 + (i % 900), currency: 'GBP' },
      maker: 'Glimmet',
      gtin: '2104000004131',
      makerNumber: `GL-${i}`,
      kin: `F${i >> 3}`,
      differsShade: wrong === 4 ? 'Mizzle' : 'moss',
      differsSize: '30 cm',
      parcel: { kind: 'measure', amount: '540', unit: 'g' },
      factEnergy: 'F',
    };
  });
}

interface Found {
  check: string;
  attribute: string;
  params: Params;
}

export async function benchChecks(count: number): Promise<BenchLine[]> {
  const [, rulebook] = shippedRulebooks('orrivane');
  if (!rulebook) throw new Error('There is no second rulebook');
  const goods = items(count);
  const attributes = attributesFor(rulebook, category, 'GB').filter(
    (row) => row.type !== 'picture' && row.type !== 'category',
  );
  const compile = (checks: typeof valueChecks) =>
    attributes.map((attribute) => ({
      key: attribute.key,
      required: attribute.need === 'required',
      tests: compileValueChecks(attribute, rulebook, checks),
    }));
  const judge = (compiled: ReturnType<typeof compile>) => () => {
    let found = 0;
    for (const item of goods) {
      const findings: Found[] = [];
      for (let a = 0; a < compiled.length; a++) {
        const { key, required, tests } = compiled[a] as (typeof compiled)[number];
        const value = item[key];
        if (value === undefined) {
          if (required) findings.push({ check: 'required', attribute: key, params: {} });
          continue;
        }
        for (let t = 0; t < tests.length; t++) {
          const check = tests[t] as CompiledCheck;
          const params = check.test(value);
          if (params) findings.push({ check: check.id, attribute: key, params });
        }
      }
      found += findings.length;
    }
    tally = found;
  };
  let tally = 0;
  const schema = compile(schemaChecks);
  const validate = new Ajv2020({ allErrors: true, unicodeRegExp: true }).compile(
    toJsonSchema(rulebook, category, 'GB'),
  );
  const plain = goods.map((item) =>
    Object.fromEntries(Object.entries(item).map(([key, value]) => [key, value && plainChannelValue(value)])),
  );
  let theirs = 0;
  const ajv = () => {
    theirs = 0;
    for (const item of plain) if (!validate(item)) theirs += validate.errors?.length ?? 0;
  };
  const { subject, baseline, ratio } = await compare(5, judge(schema), ajv);
  const ours = tally;
  const others = compile(valueChecks.filter((valueCheck) => !schemaChecks.includes(valueCheck)));
  const compiledItems = itemChecks.flatMap(({ compile: make }) => make(rulebook) ?? []);
  const start = performance.now();
  judge(others)();
  for (const item of goods) for (const test of compiledItems) test(item);
  const microseconds = ((performance.now() - start) * 1000) / count;
  return [
    {
      name: `checks ${count}`,
      ratio,
      reach: '<= 1',
      holds: ratio <= 1,
      figures: {
        ours_ms: subject,
        ajv_ms: baseline,
        ours_findings: ours,
        ajv_errors: theirs,
        other_checks_us_an_item: Number(microseconds.toFixed(2)),
      },
    },
  ];
}
