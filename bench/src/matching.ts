/** Candidates among generated records of two suppliers that describe the same goods in words of their own. */
import { type MatchItem, findCandidates } from '@velvet-shelf/core/matching';
import type { BenchLine } from './timing.js';

const reachSeconds = 60;
const names = ['Hollin', 'Tarn', 'Fenwick', 'Skerrow', 'Marl', 'Corrie', 'Dunnock', 'Oversett', 'Beck', 'Thornwick'];
const things = [
  ['plant pot', 'Übertopf'],
  ['hanging planter', 'Hängetopf'],
  ['saucer', 'Untersetzer'],
  ['trough', 'Kasten'],
];
const glazes = ['Moss', 'Chalk', 'Slate', 'Soot', 'Rust', 'Ink', 'Ochre', 'Plum'];

/** Half of the records are ours, half a supplier's; each pair of neighbours is the same goods. */
function records(count: number): MatchItem[] {
  return Array.from({ length: count }, (_, i): MatchItem => {
    const goods = i >> 1;
    const family = Math.floor(goods / 24);
    const [thing, ding] = things[family % things.length] as [string, string];
    const name = `${names[family % names.length]}${(family * 7919).toString(36)}`;
    const size = 10 + 2 * (goods % 8);
    const ours = i % 2 === 0;
    return {
      id: i + 1,
      sources: [ours ? 1 : 2],
      titles: [ours ? `${name} ${thing}, ${size} cm, ${glazes[goods % 3]}` : `${ding} ${name} ${size} cm`],
      brand: `Brand ${family % 40}`,
      mpn: undefined,
      identifiers: [],
      sizes: { diameter: size / 100, height: (size - 1) / 100 },
      words: ours ? { glaze: glazes[Math.floor((goods % 24) / 8)] ?? 'Moss' } : {},
      prices: {},
    };
  });
}

export function benchMatching(count: number): BenchLine[] {
  const items = records(count);
  const start = performance.now();
  const pairs = findCandidates(items, { most: 3 });
  const seconds = (performance.now() - start) / 1000;
  return [
    {
      name: `matching ${count}`,
      ratio: Number((seconds / reachSeconds).toFixed(3)),
      reach: `<= ${reachSeconds} s`,
      holds: seconds <= reachSeconds,
      figures: {
        seconds: Number(seconds.toFixed(2)),
        pairs: pairs.length,
        peak_memory_mb: Math.round(process.resourceUsage().maxRSS / 1024),
      },
    },
  ];
}
