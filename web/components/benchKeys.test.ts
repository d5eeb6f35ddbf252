import { expect, it } from 'vitest';
import { isWriting } from './benchKeys';

const made = (html: string) => {
  document.body.innerHTML = html;
  return document.body.firstElementChild;
};

it('keys belong to the text where somebody writes, and to the bench on radios, sliders and lists', () => {
  for (const html of ['<input>', '<input type="number">', '<textarea></textarea>'])
    expect(isWriting(made(html)), html).toBe(true);
  for (const html of ['<input type="radio">', '<input type="range">', '<input role="combobox">', '<button></button>'])
    expect(isWriting(made(html)), html).toBe(false);
  expect(isWriting(window)).toBe(false);
});
