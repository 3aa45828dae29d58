/** Texts laid out of blocks, and what a channel leaves of their markup. */
import { describe, expect, it } from 'vitest';
import type { ChannelValue } from '../rulebooks/index.js';
import { onlyTags } from '../values/index.js';
import { type Block, beginBlock, blocks, fillRuleSchema, isWholeBlock, isWholeRule, renderBlocks } from './index.js';

const goods: Record<string, { label: string; value: ChannelValue }> = {
  description: { label: 'Description', value: '<p>For <b>herbs</b></p><script>x()</script>' },
  care: { label: 'Care', value: 'Wipe <clean> & dry' },
  weight: { label: 'Weight', value: { kind: 'measure', amount: '370', unit: 'g' } },
  mainPicture: {
    label: 'first picture',
    value: { kind: 'pictures', pictures: [{ address: 'https://x.example/a"b.jpg' }] },
  },
};
const laid = (...list: Block[]) => renderBlocks(list, (name) => goods[name]);

describe('blocks', () => {
  it('become markup one below the other, words kept as words', () => {
    expect(
      laid(
        { block: 'heading', words: 'What it is' },
        { block: 'text', from: 'description' },
        { block: 'text', from: 'care' },
        { block: 'heading', words: 'Figures' },
        { block: 'list', of: ['weight', 'nothing', 'care'] },
        { block: 'words', words: 'Made by us.\n\nSold <since> 1990' },
        { block: 'picture', from: 'mainPicture' },
        { block: 'logo', address: 'https://x.example/logo.png', words: 'Ours' },
      ),
    ).toBe(
      '<h3>What it is</h3><p>For <b>herbs</b></p><p>Wipe &lt;clean&gt; &amp; dry</p><h3>Figures</h3>' +
        '<ul><li><b>Weight</b>: 370 g</li><li><b>Care</b>: Wipe &lt;clean&gt; &amp; dry</li></ul>' +
        '<p>Made by us.</p><p>Sold &lt;since&gt; 1990</p><img src="https://x.example/a&quot;b.jpg" alt=""><img src="https://x.example/logo.png" alt="Ours">',
    );
  });
  it('leave out what the goods have not, and the heading over it', () => {
    const text = laid(
      { block: 'heading', words: 'Nothing' },
      { block: 'list', of: ['nothing'] },
      { block: 'heading', words: 'Care' },
      { block: 'text', from: 'care' },
      { block: 'heading', words: 'Last' },
    );
    expect(text).toBe('<h3>Care</h3><p>Wipe &lt;clean&gt; &amp; dry</p>');
  });
  it('are nothing where the goods have nothing: words of our own alone are no description', () => {
    expect(laid({ block: 'words', words: 'Made by us' }, { block: 'text', from: 'nothing' })).toBeUndefined();
  });
  it('begin whole or say that they are not, each of their kinds', () => {
    for (const { name } of blocks) {
      const begun = beginBlock(name, { from: 'care', picture: 'mainPicture' });
      expect(begun.block).toBe(name);
      expect(isWholeBlock(begun)).toBe(!['heading', 'words', 'logo'].includes(name));
    }
    expect(isWholeBlock({ block: 'logo', address: 'javascript:x', words: '' })).toBe(false);
  });
  it('are read strictly, and a layout is whole with all of them', () => {
    const rule = fillRuleSchema.parse({ kind: 'layout', blocks: [{ block: 'text', from: 'care' }] });
    expect(isWholeRule(rule)).toBe(true);
    expect(fillRuleSchema.safeParse({ kind: 'layout', blocks: [] }).success).toBe(false);
    expect(fillRuleSchema.safeParse({ kind: 'layout', blocks: [{ block: 'frame', of: 'x' }] }).success).toBe(false);
  });
});

describe('markup a channel takes', () => {
  it('is all that is left, with what stood in the rest; what was taken out is named once', () => {
    expect(onlyTags('<h3>A</h3><p>b <i>c</i> <i>d</i></p><IMG src=x>', ['p'])).toEqual({
      html: 'A<p>b c d</p>',
      removed: ['h3', 'i', 'img'],
    });
    expect(onlyTags('5 < 6', []).removed).toEqual([]);
  });
  it('is never what runs or asks, whoever says so', () => {
    const { html, removed } = onlyTags('<p onclick="x()">a</p><script>x()</script><svg onload="x()"></svg>', [
      ...['p', 'script', 'svg'],
    ]);
    expect(html).toBe('<p>a</p>');
    expect(removed).toEqual(['script', 'svg']);
    expect(onlyTags('<img src="javascript:x()" onerror="x()">', ['img']).html).toBe('<img />');
  });
});
