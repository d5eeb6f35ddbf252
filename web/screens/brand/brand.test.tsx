import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { brandView } from '../../../tests/support/webViews';
import type { BrandView } from '../../../contract/views';
import { initialRecipe } from '../../../core/recipe/recipe';
import { standardOf } from '../../../core/recipe/standardLines';
import { BrandScreen, changeWords } from './BrandScreen';

let brand: BrandView;
const sent: { method: string; body: Record<string, unknown> }[] = [];
beforeEach(() => {
  brand = { ...brandView };
  sent.length = 0;
  vi.stubGlobal('fetch', async (_: string, init: RequestInit = {}) => {
    if (init.method !== 'PATCH') return Response.json([brand]);
    const body = JSON.parse(String(init.body));
    sent.push({ method: 'PATCH', body });
    const { basedOn, ...change } = body;
    brand = { ...brand, ...change, edition: basedOn + 1 };
    return Response.json({ brand, marks: 5, variants: 12, outdated: 2 });
  });
});
afterEach(() => vi.unstubAllGlobals());
const show = () =>
  render(
    <MemoryRouter>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <BrandScreen />
      </QueryClientProvider>
    </MemoryRouter>,
  );

describe('the brand', () => {
  it('renames a colour, tells what followed a change, and takes it back', async () => {
    show();
    const field = await screen.findByRole('textbox', { name: 'Name of #1C1B1D' });
    await userEvent.clear(field);
    await userEvent.type(field, 'Ink{Enter}');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0].body).toMatchObject({ basedOn: 1, palette: [{ name: 'Ink', hex: '#1c1b1d' }, {}] });
    expect((await screen.findByRole('status')).textContent).toContain('12 variants of 5 marks');
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1].body).toEqual({ basedOn: 2, palette: brandView.palette, gradients: [] });
  });
  it('adds and removes colours, and gives no two one name', async () => {
    show();
    await userEvent.click(await screen.findByRole('button', { name: 'Add a colour' }));
    await waitFor(() => expect((sent[0]?.body.palette as unknown[])?.length).toBe(3));
    await userEvent.click(await screen.findByRole('button', { name: 'Remove Lamp black' }));
    await waitFor(() => expect(sent).toHaveLength(2));
    const field = await screen.findByRole('textbox', { name: 'Name of #808080' });
    fireEvent.change(field, { target: { value: 'Enamel cream' } });
    fireEvent.blur(field);
    expect(sent).toHaveLength(2);
  });
  it('keeps gradients by name, which start from its first two colours', async () => {
    show();
    await userEvent.click(await screen.findByRole('button', { name: 'Add a gradient' }));
    const fresh = {
      name: 'Gradient 1',
      stops: [
        { at: 0, colour: '#1c1b1d' },
        { at: 1, colour: '#e9ddc4' },
      ],
    };
    await waitFor(() => expect(sent[0]?.body).toEqual({ basedOn: 1, gradients: [fresh] }));
    const field = await screen.findByRole('textbox', { name: 'Name of the gradient' });
    await userEvent.clear(field);
    await userEvent.type(field, 'Dusk{Enter}');
    await waitFor(() => expect(sent[1]?.body.gradients).toEqual([{ ...fresh, name: 'Dusk' }]));
    await userEvent.click(await screen.findByRole('button', { name: 'Turn round' }));
    await waitFor(() =>
      expect((sent[2]?.body.gradients as { stops: object[] }[])[0].stops[0]).toMatchObject({ colour: '#e9ddc4' }),
    );
    await userEvent.click(await screen.findByRole('button', { name: 'Remove Dusk' }));
    await waitFor(() => expect(sent[3]?.body.gradients).toEqual([]));
  });
  it('shows a live example of the names, and stores only a pattern that gives one', async () => {
    show();
    const field = await screen.findByRole('textbox', { name: /Names of files/ });
    expect(screen.getByText('lock-house-reversed-1200.png')).toBeTruthy();
    fireEvent.change(field, { target: { value: '{mark}-{colour}' } });
    fireEvent.blur(field);
    expect(sent).toHaveLength(0);
    fireEvent.change(field, { target: { value: '{brand}_{variant}' } });
    expect(screen.getByText('harrowmere_reversed.png')).toBeTruthy();
    fireEvent.blur(field);
    await waitFor(() => expect(sent[0]?.body).toEqual({ basedOn: 1, pattern: '{brand}_{variant}' }));
  });
  it('tells the standard lines and its own purposes, and gives them up', async () => {
    const [line] = standardOf(initialRecipe());
    const { variant: _, ...own } = line;
    brand = { ...brandView, standardLines: [line], ownPurposes: [{ ...own, title: 'Newsletter' }] };
    show();
    expect((await screen.findAllByText('1200 px wide, PNG, web')).length).toBe(2);
    await userEvent.click(screen.getByRole('button', { name: 'Deliver by none' }));
    await waitFor(() => expect(sent[0].body).toEqual({ basedOn: 1, standardLines: null }));
    await userEvent.click(await screen.findByRole('button', { name: 'Remove Newsletter' }));
    await waitFor(() => expect(sent[1].body).toEqual({ basedOn: 2, ownPurposes: [] }));
  });
  it('says what new marks start with, and goes back to the usual', async () => {
    brand = { ...brandView, startSet: initialRecipe().variants.slice(1) };
    show();
    expect(await screen.findByText('in one colour, white')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Back to the usual variants' }));
    await waitFor(() => expect(sent[0].body).toEqual({ basedOn: 1, startSet: null }));
  });
});

it('what a change changed is told in words', () => {
  expect(changeWords({ marks: 0, variants: 0, outdated: 0 })).toBe('Changed. No variant used it.');
  expect(changeWords({ marks: 1, variants: 2, outdated: 1 })).toBe(
    'Changed, and with it 2 variants of 1 mark. Delivered files of 1 mark are out of date.',
  );
});
