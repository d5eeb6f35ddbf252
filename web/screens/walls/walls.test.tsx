import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter, Route, Routes } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { SlotView, WallView } from '../../../contract/walls';
import { placesOf, usualSize } from '../../../contract/wallPlaces';
import { USUAL_WALL } from '../../../core/wall/wallRule';
import { brandView } from '../../../tests/support/webViews';
import { WallScreen } from './WallScreen';
import { WallsScreen } from './WallsScreen';
import { filesOfDrop, picturesOfPage } from './savedPage';
import { exportLabel, exportedWords, groundChoices, problemWords, sizeSentence } from './wallWords';

const slotView = (id: string, change: Partial<SlotView> = {}): SlotView => ({
  ...{ id, markId: `m-${id}`, markName: `Logo ${id}`, revision: 1, file: `${id}.png`, format: 'PNG' },
  ...{ widthPx: 600, heightPx: 300, shows: 'mark', variant: null, squeeze: 1, problems: [] },
  variants: [{ id: 'black', name: 'Black' }],
  look: {
    ...{ width: 200, height: 100, optics: { size: 120, middle: { x: 100, y: 50 } }, hasPaths: false },
    ...{ picture: `/p/${id}.png`, stretch: 1, enlarged: 1, best: null, oldGround: null },
  },
  ...change,
});
const wallView = (change: Partial<WallView> = {}): WallView => ({
  ...{ id: 'w1', brandId: 'b1', name: 'Partners', rule: USUAL_WALL, edition: 1 },
  slots: [slotView('a'), slotView('b', { shows: 'file', problems: ['white-box', 'margins'] })],
  ...change,
});

let sent: { method: string; path: string; body: unknown }[];
let wall: WallView;
beforeEach(() => {
  sent = [];
  wall = wallView();
  vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
    sent.push({ method: init.method ?? 'GET', path, body: init.body ? JSON.parse(String(init.body)) : null });
    const answers: Record<string, unknown> = {
      '/api/brands': [brandView],
      '/api/brands/b1/walls': [],
      '/api/brands/b1/grounds': [],
      '/api/brands/b1/marks': [],
    };
    return new Response(JSON.stringify(answers[path] ?? wall));
  });
});

const open = (path: string) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter initialEntries={[path]}>
        <Routes>
          <Route path="/walls" element={<WallsScreen />} />
          <Route path="/walls/:wallId" element={<WallScreen />} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
const last = (method: string) => [...sent].reverse().find((s) => s.method === method);

describe('the screen of a wall', () => {
  it('opens at what is to be mended, says what is wrong, and mends one slot at a press', async () => {
    open('/walls/w1');
    await screen.findByText(/1 to mend/);
    expect(screen.getByText('White box.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Cut it out' }));
    await waitFor(() => expect(last('POST')).toMatchObject({ path: '/api/walls/w1/mend', body: { slots: ['b'] } }));
  });
  it('levels, dresses and sizes by its rule, and takes nothing that cannot be', async () => {
    open('/walls/w1');
    await userEvent.click(await screen.findByText('Greys'));
    await waitFor(() => expect(last('PATCH')?.body).toMatchObject({ basedOn: 1, rule: { dress: 'greys' } }));
    const padding = screen.getByLabelText('Padding');
    await userEvent.clear(padding);
    await userEvent.type(padding, '70%');
    expect(screen.getByText(/less than half of the slot/)).toBeTruthy();
    await userEvent.keyboard('{Enter}');
    expect(sent.filter((s) => s.method === 'PATCH')).toHaveLength(1);
    await userEvent.clear(padding);
    await userEvent.type(padding, '12px{Enter}');
    await waitFor(() => expect(last('PATCH')?.body).toMatchObject({ rule: { padding: { value: 12, unit: 'px' } } }));
  });
  it('asks for a look at slots that nobody has looked at, and says so meanwhile', async () => {
    wall = wallView({ slots: [slotView('a', { look: null }), slotView('b')] });
    open('/walls/w1');
    await screen.findByText('checking…');
    await waitFor(() => expect(last('POST')).toMatchObject({ path: '/api/walls/w1/look', body: { slots: ['a'] } }));
  });
  it('of an empty wall says how it is filled', async () => {
    wall = wallView({ slots: [] });
    open('/walls/w1');
    await screen.findByText('Drop logos here');
    await screen.findByRole('button', { name: /Take marks of Harrowmere/ });
  });
});

it('the list of walls begins a new one', async () => {
  open('/walls');
  await screen.findByText('No wall yet');
  await userEvent.click(screen.getByRole('button', { name: 'New wall' }));
  await waitFor(() => expect(last('POST')).toMatchObject({ path: '/api/brands/b1/walls', body: { name: 'Partners' } }));
});

describe('a saved page', () => {
  const page = `<h1>Partners</h1><script>throw 1</script><img src="./page_files/osier%20new.png?v=2" alt="Osier">
    <svg viewBox="0 0 4 4"><title>Mill &amp; Weir</title><path d="M0 0h4v4z"/></svg>
    <img src="data:image/png;base64,AAEC" alt="Red ling"><img src="data:text/html,x">
    <img src="https://x.example/reed.png">`;
  it('names its pictures in order; those written into it become files', () => {
    const found = picturesOfPage(page).map((p) => p.name);
    expect(found).toEqual(['osier new.png', 'mill-weir.svg', 'red-ling.png', 'reed.png']);
  });
  it('fills a wall with what it shows, in its order, and nothing else that came along', async () => {
    const files = ['reed.png', 'icon.png', 'osier new.png'].map((n) => new File(['x'], n, { type: 'image/png' }));
    const got = await filesOfDrop([...files, new File([page], 'partners.html', { type: 'text/html' })]);
    expect(got.map((f) => f.name)).toEqual(['osier new.png', 'mill-weir.svg', 'red-ling.png', 'reed.png']);
    expect(new Uint8Array(await got[2].arrayBuffer())).toEqual(new Uint8Array([0, 1, 2]));
    expect(await got[1].text()).toContain('xmlns="http://www.w3.org/2000/svg"');
  });
  it('without a page all files are taken as they came', async () => {
    const files = [new File(['x'], 'a.png'), new File(['x'], 'b.svg')];
    expect(await filesOfDrop(files)).toEqual(files);
  });
});

describe('words of a wall', () => {
  it('tell enlargement by its pixels, and what was blown up before it came', () => {
    const few = slotView('a', { look: { ...slotView('a').look!, enlarged: 2.4 } });
    expect(problemWords('enlarged', few).tag).toBe('enlarged 2.4 times');
    expect(problemWords('enlarged', slotView('a')).tag).toBe('blown up');
  });
  it('name the ground that is left in the edges', () => {
    const black = slotView('a', { look: { ...slotView('a').look!, oldGround: '#000000' } });
    expect(problemWords('fringe', black)).toMatchObject({ tag: 'dark fringe', mend: 'Take the black out' });
    expect(problemWords('fringe', slotView('a'))).toMatchObject({ tag: 'light fringe', mend: 'Take the white out' });
  });
  it('compare a size with its neighbours', () => {
    expect(sizeSentence(131, 99, 100)).toBe(
      'Looks as large as its neighbours. In boxes of one size it would look larger than its neighbours: 1.31.',
    );
    expect(sizeSentence(41, 60, 100)).toBe(
      'Looks smaller than its neighbours. In boxes of one size it would look smaller than its neighbours: 0.41.',
    );
    expect(sizeSentence(60, 60, 100)).toBe('Looks smaller than its neighbours.');
    expect(sizeSentence(101, 100, 100)).toBe('Looks as large as its neighbours.');
  });
  it('count the files that will be written, and offer grounds once each', () => {
    const wall = wallView();
    expect(exportLabel(wall, [])).toBe('Export 7 files');
    const copy = { ...wall.slots[0], problems: ['duplicate' as const] };
    expect(exportLabel({ ...wall, slots: [copy, copy] }, [copy])).toBe('Fix 1 and export 1 logo');
    const counts = { logos: 2, files: 7, fixed: 1, withProblems: 0, leftOut: 0, withoutSvg: 2 };
    expect(exportedWords(counts)).toBe(
      '7 files of 2 logos exported and checked. 1 fixed, 2 without SVG: the receipt names them.',
    );
    const grounds = groundChoices(
      [
        { name: 'Paper', hex: '#ffffff' },
        { name: 'Ink', hex: '#101020' },
      ],
      [],
    );
    expect(grounds.filter((g) => g.hex === '#ffffff')).toHaveLength(1);
    expect(grounds.map((g) => g.label)).toContain('Ink');
  });
  it('places stand in their slots, and the usual size is the middle one', () => {
    const places = placesOf(wallView());
    expect(places.get('a')?.width).toBeLessThanOrEqual(324);
    expect(usualSize(places)).toBeGreaterThan(0);
  });
});
