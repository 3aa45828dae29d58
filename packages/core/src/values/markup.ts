import { decodeHTMLStrict } from 'entities';
import sanitizeHtml from 'sanitize-html';

/** HTML entities as the characters they stand for, however often they were escaped on the way ("&amp;amp;lsquo;"). */
export function decodeEntities(text: string): string {
  for (let i = 0, now = text; i < 5; i++) {
    const next = /&[#\w]+;/.test(now) ? decodeHTMLStrict(now) : now;
    if (next === now) return now;
    now = next;
    text = now;
  }
  return text;
}

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

interface Cleaned {
  html: string;
  removed: string[];
}

/** Variants of a family repeat their text, so the last texts are remembered. */
const remembered = new Map<string, Cleaned>();
const mostRemembered = 500;

/** Cleans markup for keeping, and says what was taken out. Text without markup passes untouched. */
export function cleanMarkup(html: string): Cleaned {
  if (!/[<&]/.test(html)) return { html, removed: [] };
  const known = remembered.get(html);
  if (known) return known;
  const cleaned = clean(html);
  if (remembered.size >= mostRemembered) remembered.clear();
  remembered.set(html, cleaned);
  return cleaned;
}

/** Tags of ours without attributes need no sanitising. */
const plainTags = new RegExp(`<(?=[a-z!/])(?!/?(?:${allowed.allowedTags.join('|')})\\s*/?>)`, 'i');

function clean(html: string): Cleaned {
  const removed = [
    [/<script/i, 'a script'],
    [/<iframe/i, 'an iframe'],
    [/<[^>]+\sstyle\s*=/i, 'inline styles'],
    [/<[^>]+\son\w+\s*=/i, 'an event handler'],
    [/javascript:/i, 'a script address'],
  ].flatMap(([pattern, name]) => ((pattern as RegExp).test(html) ? [name as string] : []));
  return { html: plainTags.test(html) ? sanitizeHtml(html, allowed) : html, removed };
}

/** Markup as plain text: blocks become lines, list items get a dash. Fast, because cleaned markup holds no surprises. */
export function plainText(html: string): string {
  if (!/[<&]/.test(html)) return html;
  return html
    .replace(/\s*<li[^>]*>\s*/gi, '\n- ')
    .replace(/\s*<\/?(?:p|div|ul|ol|h\d|tr|table)[^>]*>\s*/gi, '\n')
    .replace(/<br\s*\/?>\s*/gi, '\n')
    .replace(/<\/?[a-z][^>]*>/gi, '')
    .replace(/&#?\w+;/g, decodeEntities)
    .replace(/\n{3,}/g, '\n\n')
    .trim();
}

/** Whether anything is left once the tags are gone. */
export function hasText(html: string): boolean {
  return /(?:^|>)[^<&]*[\p{L}\p{N}]/u.test(html) || plainText(html) !== '';
}
