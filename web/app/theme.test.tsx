import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it } from 'vitest';
import { ThemeProvider, useTheme } from './theme';

const Switch = () => {
  const { name, setName } = useTheme();
  return <button onClick={() => setName(name === 'light' ? 'dark' : 'light')}>{name}</button>;
};
const show = () =>
  render(
    <ThemeProvider>
      <Switch />
    </ThemeProvider>,
  );

it('the theme is light at first, holds for the whole page, and is remembered', async () => {
  const { unmount } = show();
  expect(document.documentElement.dataset.theme).toBe('light');
  await userEvent.click(screen.getByText('light'));
  expect(document.documentElement.dataset.theme).toBe('dark');
  unmount();
  show();
  expect(screen.getByText('dark')).toBeTruthy();
});
