/** The same way with the keyboard alone: what Tab does not come to, what Enter does not do, she cannot have. */
import type { FileChooser, Locator, Page } from '@playwright/test';
import { expect, stranger as test } from '../hands.js';
import { type Hands, walk } from '../first-run-walk.js';

/** Stops of Tab on the longest page, and some to spare. */
const mostStops = 300;

function keyboardHands(page: Page): Hands {
  const { keyboard } = page;
  let choose: (chooser: FileChooser) => void = () => undefined;
  // Listened for from the beginning: one that opens before it is listened for is lost.
  page.on('filechooser', (chooser) => choose(chooser));
  const isFocused = (target: Locator) => target.evaluate((element) => element === document.activeElement);
  /** Goes on from where the focus is, around the page once at most. */
  const reach = async (target: Locator, key = 'Tab') => {
    await expect(target).toBeVisible();
    await expect(target).toBeEnabled();
    for (let stops = 0; !(await isFocused(target)); stops++) {
      if (stops === mostStops) throw new Error(`${key} does not come to ${String(target)}`);
      await keyboard.press(key);
    }
  };
  const roleOf = (target: Locator) => target.evaluate((element) => element.getAttribute('role'));
  return {
    click: async (target) => {
      await expect(target).toBeVisible();
      const role = await roleOf(target);
      // Of a list and of tabs one stop is reached by Tab, the others by arrows.
      if (role === 'option') await reach(target, 'ArrowDown');
      else if (role === 'tab') {
        await reach(page.getByRole('tab', { selected: true }));
        await reach(target, 'ArrowRight');
      } else await reach(target);
      await keyboard.press('Enter');
    },
    type: async (label, text) => {
      await reach(page.getByLabel(label, { exact: false }).first());
      await keyboard.press('ControlOrMeta+A');
      await keyboard.type(text);
    },
    press: async (target, key) => {
      await reach(target);
      await keyboard.press(key);
    },
    pick: async (label, text, option) => {
      await reach(page.getByRole('combobox', { name: label, exact: false }));
      await keyboard.press('ControlOrMeta+A');
      await keyboard.type(text);
      await expect(page.getByRole('option', { name: option }).first()).toBeVisible();
      await keyboard.press('Enter');
      await keyboard.press('Escape');
    },
    file: async (_, opener, name, text) => {
      await reach(opener);
      const chosen = new Promise<FileChooser>((resolve) => (choose = resolve));
      await keyboard.press('Enter');
      await (await chosen).setFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
    },
  };
}

test('from an empty shelf to a first checked feed without a mouse', async ({ page }) => {
  await walk(page, keyboardHands(page));
});
