/** What a shopper sees of Orrivane, and beside it what the account has sent: plain HTML. */
export interface Shown {
  key: string;
  market: string;
  number: string;
  title: string;
  maker: string;
  asks: string;
  /** What was asked before. */
  before: string | null;
  view: string;
  page: string;
  leaves: string;
}

const escape = (text: string) =>
  text.replace(/[&<>"]/g, (mark) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[mark] ?? mark);

const asked = ({ asks, before }: Shown) => (before ? `${escape(asks)} <s>${escape(before)}</s>` : escape(asks));

const style = `
body{font:15px/1.45 system-ui,sans-serif;margin:0;color:#182026;background:#f2f5f6}header{background:#0f4c5c;color:#fff;padding:14px 28px;display:flex;gap:24px;align-items:center}
header b{font-size:22px;letter-spacing:.02em}input{padding:8px 12px;border:0;border-radius:4px;width:320px;font:inherit}main{padding:20px 28px}ul{list-style:none;padding:0;display:grid;grid-template-columns:repeat(auto-fill,minmax(190px,1fr));gap:14px}
li{background:#fff;border-radius:6px;padding:12px}img{width:100%;aspect-ratio:1;object-fit:cover;border-radius:4px;background:#eee}s{color:#777}small{color:#5a6870;display:block}a{color:inherit}table{border-collapse:collapse;margin:8px 0 20px}td,th{padding:4px 14px 4px 0;text-align:left}
main.one{display:grid;grid-template-columns:minmax(200px,360px) 1fr;gap:28px}main.one b{font-size:24px}`;

/** What a shopper sees of one item; without one, that it is gone. */
export function itemPage(number: string, shown: Shown | undefined): string {
  const head = `<!doctype html><html lang="en"><meta charset="utf-8"><title>${escape(shown?.title ?? 'Not here')} · Orrivane</title><style>${style}</style>
<header><b>Orrivane</b><span>find it, compare it</span><span>A simulated channel</span></header>`;
  if (!shown) return `${head}<main><h1>Item ${escape(number)} is not shown any more</h1></main></html>`;
  const price = asked(shown);
  return `${head}<main class="one"><img src="${escape(shown.view)}" alt=""><div><h1>${escape(shown.title)}</h1><p>${escape(shown.maker)} · ${escape(shown.number)}</p><b>${price}</b><p>${escape(shown.leaves)}</p><p><a href="${escape(shown.page)}">Go to Mosswick Supply</a></p></div></main></html>`;
}

export function page(
  items: Shown[],
  total: number,
  reports: { id: string; at: string; market: string; counts: string }[],
  query: string,
): string {
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>Orrivane</title>
<style>${style}</style><header><b>Orrivane</b><span>find it, compare it</span><form><input name="q" placeholder="Search" value="${escape(query)}" aria-label="Search"></form><span>A simulated channel</span></header>
<main><h1>${total} items from Mosswick Supply</h1>
<table><tr><th>Report</th><th>Read at</th><th>Market</th><th>Result</th></tr>${reports.map((report) => `<tr><td>${escape(report.id)}</td><td>${escape(report.at)}</td><td>${escape(report.market)}</td><td>${escape(report.counts)}</td></tr>`).join('')}</table>
<ul>${items
    .map(
      (
        row,
      ) => `<li><img src="${escape(row.view)}" alt="" loading="lazy"><a href="${escape(row.page)}">${escape(row.title)}</a><small>${escape(row.maker)} · ${escape(row.number)}</small>
<b>${asked(row)}</b><small>${escape(row.leaves)}</small></li>`,
    )
    .join('')}</ul></main></html>`;
}
