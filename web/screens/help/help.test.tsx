import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter, Route, Routes } from 'react-router';
import { describe, expect, it, vi } from 'vitest';
import { whyOfFinding } from '../../../core/why/why';
import { Findings } from '../bench/panels/Findings';
import { ThreeWays } from '../marks/ThreeWays';
import { HelpScreen } from './HelpScreen';
import { pages } from './pages';

const open = (path: string) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={[path]}>
        <Routes>
          <Route path="/help/:page?" element={<HelpScreen />} />
          <Route path="/take-in/:how" element={<p>the pad</p>} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );

describe('help', () => {
  it('opens at the keys, which can be printed', async () => {
    const print = vi.fn();
    vi.stubGlobal('print', print);
    open('/help');
    expect(screen.getByRole('heading', { name: 'Keys' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Print this page' }));
    expect(print).toHaveBeenCalled();
  });
  it('holds the reference as it stands beside the program', async () => {
    expect(pages.map((p) => p.id)).toEqual(expect.arrayContaining(['command-line', 'bundles', 'errors']));
    open('/help/bundles');
    await screen.findByRole('heading', { name: 'Bundles' });
    expect(screen.getByText('SHA256SUMS', { selector: 'td code' })).toBeTruthy();
  });
  it('tells of every finding why it matters', () => {
    open('/help/findings');
    expect(screen.getByText(whyOfFinding.fringe)).toBeTruthy();
  });
  it('says so where there is no such page', async () => {
    open('/help/nothing');
    await screen.findByText(/There is no such page/);
  });
});

it('a finding says why it matters to whoever asks', async () => {
  const finding = { id: 'specks', stage: 'tidy', weight: 'risk', title: '3 specks', detail: 'Far off.', places: [] };
  render(<Findings findings={[finding as never]} onShow={() => {}} onFix={() => {}} />);
  await userEvent.click(screen.getByRole('button', { name: 'Why: 3 specks' }));
  await screen.findByText(whyOfFinding.specks);
});

it('a brand without marks shows three ways in, each with what comes of it', async () => {
  const choose = vi.fn();
  render(
    <MemoryRouter>
      <ThreeWays brand="Harrowmere" onChoose={choose} />
    </MemoryRouter>,
  );
  expect(screen.getAllByRole('img')).toHaveLength(3);
  await userEvent.click(screen.getByRole('button', { name: /Drop a logo/ }));
  await userEvent.click(screen.getByRole('button', { name: /Photograph a signature/ }));
  expect(choose).toHaveBeenCalledTimes(2);
  expect(screen.getByRole('link', { name: /Draw or type/ }).getAttribute('href')).toBe('/take-in/draw');
});
