import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import { ColourChoice } from './ColourChoice';

afterEach(() => vi.unstubAllGlobals());
const open = async () => {
  const onChange = vi.fn();
  render(<ColourChoice name="Colour" hex="#6a2a5b" onChange={onChange} />);
  await userEvent.click(screen.getByRole('button', { name: 'Colour #6A2A5B' }));
  return { onChange, field: await screen.findByRole<HTMLInputElement>('textbox', { name: 'Colour as text' }) };
};

it.each([
  ['teal', '#008080'],
  ['hsl(120 100% 25%)', '#008000'],
  ['oklch(100% 0 0)', '#ffffff'],
])('a colour typed as %s is read', async (text, hex) => {
  const { onChange, field } = await open();
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
  expect(onChange).toHaveBeenCalledWith(hex);
});
it('what is no colour changes nothing', async () => {
  const { onChange, field } = await open();
  await userEvent.clear(field);
  await userEvent.type(field, 'plumish{Enter}');
  expect(onChange).not.toHaveBeenCalled();
});
it('a colour is taken from the screen where the browser can, and copied', async () => {
  vi.stubGlobal(
    'EyeDropper',
    class {
      open = async () => ({ sRGBHex: '#1F5A45' });
    },
  );
  const { onChange } = await open();
  await userEvent.click(screen.getByRole('button', { name: 'From the picture' }));
  expect(onChange).toHaveBeenCalledWith('#1f5a45');
  await userEvent.click(screen.getByRole('button', { name: 'Copy' }));
  expect(await navigator.clipboard.readText()).toBe('#6a2a5b');
});
