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

/** Markup that readers show, pictures too. */
export const usualTags: readonly string[] = [...allowed.allowedTags, 'img'];

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
  return known(html, () => clean(html));
}

/** What was found for a text lately, or is found now. */
function known(name: string, find: () => Cleaned): Cleaned {
  const held = remembered.get(name);
  if (held) return held;
  const cleaned = find();
  if (remembered.size >= mostRemembered) remembered.clear();
  remembered.set(name, cleaned);
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
    [/<a\s/i, 'links'],
    [/<a\s[^>]*[?&;](?:utm_\w+|gclid|fbclid|msclkid|mc_eid|ref(?:errer)?)=/i, 'tracking in an address'],
    [/<img\s(?:[^>]*\s)?(?:width|height)\s*=\s*["']?[01](?:px)?["'\s/>]/i, 'a tracking picture'],
    [/<img\s/i, 'pictures'],
    [/<(?:object|embed|form|video|audio|link|meta)\b/i, 'what is no text'],
  ].flatMap(([pattern, name]) => ((pattern as RegExp).test(html) ? [name as string] : []));
  return { html: plainTags.test(html) ? sanitizeHtml(html, allowed) : html, removed };
}

const tagsOfText = new RegExp(`</?(?:${usualTags.join('|')})\\b[^>]*>`, 'i');

/** Whether a text is markup: other words in angles are words. */
export const isMarkup = (text: string): boolean => tagsOfText.test(text);

/** Text as it stands in markup: its own signs are no tags. */
export const escapeMarkup = (text: string): string => text.replace(/[&<>"]/g, (sign) => entities[sign] ?? sign);
const entities: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** Whatever anybody says of them: they are no text. */
const never = new Set(
  'script style iframe frame frameset object embed applet form input button select textarea link meta base svg math template noscript title video audio'.split(
    ' ',
  ),
);

/** Markup with these tags alone, as a reader of it shows it, and the tags that were taken out; what stood in them stays. */
export function onlyTags(html: string, given: readonly string[]): Cleaned {
  if (!/<[a-z!/]/i.test(html)) return { html, removed: [] };
  const tags = given.filter((tag) => !never.has(tag));
  const name = `${tags.join(' ')}>${html}`;
  return known(name, () => {
    const removed = new Set<string>();
    for (const [, written = ''] of html.matchAll(/<\/?([a-z][a-z0-9]*)\b/gi)) {
      const tag = written.toLowerCase();
      if (!tags.includes(tag)) removed.add(tag);
    }
    const options = { allowedTags: [...tags], allowedAttributes: { img: ['src', 'alt'] } };
    return { html: sanitizeHtml(html, options), removed: [...removed] };
  });
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
