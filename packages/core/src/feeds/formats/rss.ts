/** RSS 2.0 with the channel's own namespace; `plain` fields are RSS's own elements (title, link, description). */
import { type WrittenFormat, xmlMark, xmlText } from './model.js';
import { compileFields } from './rows.js';

export const rss: WrittenFormat = {
  label: 'RSS 2.0',
  extension: 'xml',
  contentType: 'application/rss+xml; charset=utf-8',
  compile(rulebook, meta) {
    const { prefix = 'x', namespace = '' } = rulebook.exchange.rows?.rss ?? {};
    const tags = compileFields(rulebook).map((field) => ({
      ...field,
      tag: field.plain ? field.name : `${prefix}:${field.name}`,
    }));
    return {
      head:
        `<?xml version="1.0" encoding="UTF-8"?>\n<rss version="2.0" xmlns:${prefix}="${xmlMark(namespace)}">\n<channel>\n` +
        `<title>${xmlText(meta.title)}</title>\n<link>${xmlText(meta.link)}</link>\n<description>${xmlText(meta.description)}</description>\n`,
      item: (values) => {
        let text = '<item>';
        for (const { attribute, tag, texts } of tags) {
          const value = values[attribute];
          if (value === undefined) continue;
          for (const word of texts(value)) text += `<${tag}>${xmlText(word)}</${tag}>`;
        }
        return `${text}</item>\n`;
      },
      foot: '</channel>\n</rss>\n',
    };
  },
};
