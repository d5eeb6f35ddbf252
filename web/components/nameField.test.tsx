import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it, vi } from 'vitest';
import { NameField } from './NameField';

it('a new name is passed on once it is left; an empty or taken one goes back to what it was', async () => {
  const onCommit = vi.fn();
  render(<NameField what="wall" name="Partners" taken={['Films']} className="n" onCommit={onCommit} />);
  const field = screen.getByLabelText<HTMLInputElement>('Name of the wall');
  const type = async (text: string) => {
    await userEvent.clear(field);
    if (text) await userEvent.type(field, text);
  };
  await type('Films');
  expect(screen.getByText('There is a wall of that name.')).toBeTruthy();
  await userEvent.tab();
  expect(field.value).toBe('Partners');
  await type('');
  await userEvent.tab();
  expect([field.value, onCommit.mock.calls]).toEqual(['Partners', []]);
  await type('  Towpath ');
  await userEvent.tab();
  expect(onCommit.mock.calls).toEqual([['Towpath']]);
});
