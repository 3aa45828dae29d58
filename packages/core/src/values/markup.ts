import sanitizeHtml from 'sanitize-html';

const entities: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'", nbsp: ' ' };

/** What a rich text may hold here: structure and emphasis, no scripts, frames, styles or event handlers. */
const allowed = {
  allowedTags: [
    'p',
    'br',
    'div',
    'ul',
    'ol',
    'li',
    'strong',
    'b',
    'em',
    'i',
    'sub',
    'sup',
    'h2',
    'h3',
    'h4',
    'table',
    'tbody',
    'thead',
    'tr',
    'td',
    'th',
    'span',
  ],
  allowedAttributes: {},
  disallowedTagsMode: 'discard' as const,
};

/** Cleans markup for keeping, and says what was taken out. Text without markup passes untouched. */
export function cleanMarkup(html: string): { html: string; removed: string[] } {
  if (!/[<&]/.test(html)) return { html, removed: [] };
  const removed = [
    [/<script/i, 'a script'],
    [/<iframe/i, 'an iframe'],
    [/<[^>]+\sstyle\s*=/i, 'inline styles'],
    [/<[^>]+\son\w+\s*=/i, 'an event handler'],
    [/javascript:/i, 'a script address'],
  ].flatMap(([pattern, name]) => ((pattern as RegExp).test(html) ? [name as string] : []));
  return { html: /<[a-z!/]/i.test(html) ? sanitizeHtml(html, allowed) : html, removed };
}

/** Markup as plain text: blocks become lines, list items get a dash. Fast, because cleaned markup holds no surprises. */
export function plainText(html: string): string {
  if (!/[<&]/.test(html)) return html;
  return html
    .replace(/\s*<li[^>]*>\s*/gi, '\n- ')
    .replace(/\s*<\/?(?:p|div|ul|ol|h\d|tr|table)[^>]*>\s*/gi, '\n')
    .replace(/<br\s*\/?>\s*/gi, '\n')
    .replace(/<\/?[a-z][^>]*>/gi, '')
    .replace(/&(#\d+|#x[\da-f]+|\w+);/gi, (whole, name: string) => {
      if (name.startsWith('#x') || name.startsWith('#X')) return String.fromCodePoint(parseInt(name.slice(2), 16));
      if (name.startsWith('#')) return String.fromCodePoint(Number(name.slice(1)));
      return entities[name.toLowerCase()] ?? whole;
    })
    .replace(/\n{3,}/g, '\n\n')
    .trim();
}
