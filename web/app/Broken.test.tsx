import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Outlet, RouterProvider, createMemoryRouter } from 'react-router';
import { expect, it, vi } from 'vitest';
import { Broken } from './Broken';

function Breaks(): never {
  throw new Error('boxes[1] is undefined');
}

it('a screen that breaks leaves the rest standing, says what happened, and offers ways on', async () => {
  vi.spyOn(console, 'error').mockImplementation(() => {});
  const shell = (
    <>
      <nav>Main</nav>
      <Outlet />
    </>
  );
  const screens = [
    { path: '/marks', element: <p>All marks</p> },
    { path: '/placements/1', element: <Breaks /> },
  ];
  const router = createMemoryRouter([{ element: shell, children: [{ errorElement: <Broken />, children: screens }] }], {
    initialEntries: ['/marks', '/placements/1'],
  });
  render(<RouterProvider router={router} />);
  expect(screen.getByText('Main')).toBeTruthy();
  const told = screen.getByRole('alert').textContent ?? '';
  expect(told).toContain('This screen stopped working.');
  expect(told).toContain('boxes[1] is undefined');
  expect(told).toContain('/placements/1');
  await userEvent.click(screen.getByRole('button', { name: 'Go back' }));
  expect(await screen.findByText('All marks')).toBeTruthy();
});
