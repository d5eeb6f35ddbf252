import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter, Route, Routes, useLocation } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type {
  LineView,
  PieceView,
  PlacementCard,
  PlacementView,
  RunGroundView,
  RunOptions,
} from '../../../contract/views';
import { readPlacement } from '../../../core/placements/readPlacement';
import { brandView, cardView, markView } from '../../../tests/support/webViews';
import { DocumentScreen } from './DocumentScreen';
import { PlaceSide } from './PlaceSide';
import { PlacementsScreen } from './PlacementsScreen';
import { RunSettings } from './RunSettings';
import { SheetScreen } from './SheetScreen';
import { SurfaceScreen } from './SurfaceScreen';

const rule = readPlacement({ items: [{ mark: 'm1' }] });
const options: RunOptions = {
  ...{ quality: 92, keepsLocation: false, longEdgePx: null, pattern: '{photo}-{mark}' },
  format: 'same',
};
const card: PlacementCard = { id: 'p1', name: 'Lower right', items: rule.items, groundCount: 6, state: 'ready' };
const placement: PlacementView = {
  ...{ id: 'p2', brandId: 'b1', name: 'Trust badge, lower right, 100 %', rule, options, edition: 1, grounds: [] },
  run: { state: 'idle', problem: null, count: 0, done: 0, beganAt: null },
};
const piece: PieceView = {
  ...{ id: 's1', name: '01-badge', state: 'working' },
  order: {
    ...{
      markId: 'm1',
      variant: 'black',
      paper: '10x8in',
      mat: '11x14in:9.5x7.5in',
      ppi: 150,
      at: 'upper',
      inset: '5%',
    },
    ...{ size: '50%', groundId: null, format: 'tiff' },
  },
};
const line = (words: string, x: number, score: number): LineView => ({ x, y: 640, width: 210, room: 90, score, words });

let sent: { method: string; path: string; body: Record<string, unknown> }[];
let answers: Record<string, unknown>;
beforeEach(() => {
  sent = [];
  answers = {
    '/api/brands': [brandView],
    '/api/brands/b1/marks': [cardView()],
    '/api/brands/b1/placements': [card],
    '/api/brands/b1/pieces': [piece],
    '/api/brands/b1/grounds': [],
    '/api/marks/m1': markView(),
  };
  vi.stubGlobal('fetch', async (path: string, { method = 'GET', body }: RequestInit = {}) => {
    const [plain] = path.split('?');
    if (method === 'GET') return Response.json(answers[plain] ?? []);
    sent.push({ method, path, body: typeof body === 'string' ? JSON.parse(body) : {} });
    if (method === 'DELETE') return new Response(null, { status: 204 });
    if (plain.endsWith('/sheets') || plain.endsWith('/surfaces') || plain.endsWith('/signed'))
      return new Response('file', { headers: { 'content-disposition': 'attachment; filename="made.pdf"' } });
    return Response.json(answers[`${method} ${plain}`] ?? {}, { status: 201 });
  });
  // Pictures are there at once, two to one.
  vi.stubGlobal(
    'Image',
    class {
      naturalWidth = 600;
      naturalHeight = 300;
      onload = () => {};
      set src(_: string) {
        setTimeout(() => this.onload());
      }
    },
  );
  window.Image = globalThis.Image;
  URL.createObjectURL = () => 'blob:made';
  URL.revokeObjectURL = () => {};
});

const Where = () => <output>{useLocation().pathname}</output>;
function show(at: string, element: ReactNode) {
  return render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter initialEntries={[at]}>
        <Routes>
          <Route path={at.split('?')[0]} element={element} />
          <Route path="*" element={<Where />} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}
const choose = async (name: string, option: string) => {
  await userEvent.click(screen.getByRole('combobox', { name }));
  const all = await screen.findAllByText(option, { selector: '.ant-select-item-option-content' });
  await userEvent.click(all.at(-1) as HTMLElement);
};

describe('the placements of a brand', () => {
  it('are listed with their rule, and one is begun under a name of its own parts', async () => {
    answers['POST /api/brands/b1/placements'] = placement;
    show('/placements', <PlacementsScreen />);
    const row = (await screen.findByRole('link', { name: 'Lower right' })).closest('tr') as HTMLElement;
    expect(within(row).getByText('lower right, 18 %')).toBeTruthy();
    expect(row.textContent).toContain('6written');
    await userEvent.click(screen.getByRole('button', { name: 'on photos and clips' }));
    await screen.findByText('/placements/p2');
    expect(sent[0].body).toMatchObject({ name: 'Trust badge, lower right, 100 %', rule: { items: [{ mark: 'm1' }] } });
  });
  it('and sheets that are kept, each working, ready or archived', async () => {
    show('/placements', <PlacementsScreen />);
    const link = await screen.findByRole('link', { name: '01-badge' });
    expect(link.getAttribute('href')).toBe('/placements/sheet?piece=s1');
    await choose('State of 01-badge', 'ready');
    await waitFor(() => expect(sent[0]).toMatchObject({ method: 'PATCH', body: { state: 'ready' } }));
    await userEvent.click(screen.getByRole('button', { name: 'Remove 01-badge' }));
    await waitFor(() => expect(sent[1]).toMatchObject({ method: 'DELETE', path: '/api/pieces/s1' }));
  });
  it('without a mark say what to do first', async () => {
    answers['/api/brands/b1/marks'] = [];
    show('/placements', <PlacementsScreen />);
    expect(await screen.findByText(/Take in a mark first/)).toBeTruthy();
  });
});

describe('a print sheet', () => {
  it('tells the mark’s size on paper and what the mat holds, and is made as it is shown', async () => {
    show('/placements/sheet?mark=m1', <SheetScreen />);
    expect(await screen.findByText('3000 × 2400 px at 300 per inch')).toBeTruthy();
    await choose('Mat', '11x14in, 9.5x7.5in');
    expect(await screen.findByText('6.3 mm')).toBeTruthy();
    // 60 % of the 241.3 mm that are seen, two to one.
    expect(screen.getByText('5.70 × 2.85 in')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Make the sheet' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0].body).toMatchObject({
      ...{ markId: 'm1', paper: '10x8in', mat: '11x14in:9.5x7.5in', ppi: 300, size: '60%', format: 'pdf' },
      name: 'Harrowmere-Trust badge-Colour-10x8in',
    });
  });
  it('says what is wrong with a size, and is not made', async () => {
    show('/placements/sheet?mark=m1', <SheetScreen />);
    const size = await screen.findByRole('textbox', { name: 'Size' });
    await userEvent.clear(size);
    await userEvent.type(size, 'large');
    expect((await screen.findByRole('alert')).textContent).toContain('takes a number');
    expect(screen.getByRole('button', { name: 'Make the sheet' })).toHaveProperty('disabled', true);
  });
  it('that is kept opens as it was, and is kept anew under its id', async () => {
    answers['POST /api/brands/b1/pieces'] = piece;
    show('/placements/sheet?piece=s1', <SheetScreen />);
    expect(await screen.findByText('1500 × 1200 px at 150 per inch')).toBeTruthy();
    expect(screen.getByRole('textbox', { name: 'Name' })).toHaveProperty('value', '01-badge');
    await userEvent.click(screen.getByRole('button', { name: 'Keep the change' }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ id: 's1', name: '01-badge', order: piece.order }));
  });
});

describe('a cup or a sign', () => {
  it('is drawn anew with every change, and leaves as a pair', async () => {
    show('/placements/surface?mark=m1', <SurfaceScreen />);
    expect(await screen.findByAltText('A cup with the mark')).toBeTruthy();
    await userEvent.click(screen.getByText('Sign', { exact: true }));
    expect(await screen.findByAltText('A sign with the mark')).toBeTruthy();
    await waitFor(() =>
      expect(sent.at(-1)?.body).toMatchObject({ form: 'look', surface: { kind: 'sign', turnDeg: 28 } }),
    );
    await userEvent.click(screen.getByRole('button', { name: 'Make the pictures' }));
    await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ form: 'pair', markId: 'm1' }));
  });
});

describe('a document', () => {
  it('is signed on the line that is found, in the ink and with the date that are asked for', async () => {
    const pages = [1, 2].map(() => ({ widthPt: 595, heightPt: 842 }));
    answers['POST /api/brands/b1/pdfs'] = { sha: 'a1', name: 'agreement.pdf', pages, pageCount: 2 };
    answers['/api/pdfs/a1/pages/2/lines'] = [line('Signature of the chair', 64, 60), line('Date', 360, -30)];
    show('/placements/document?mark=m1', <DocumentScreen />);
    const file = new File(['%PDF-1.7'], 'agreement.pdf', { type: 'application/pdf' });
    await userEvent.upload(await screen.findByLabelText('Choose a document'), file);
    expect(await screen.findByRole('radio', { name: /Signature of the chair/, checked: true })).toBeTruthy();
    await screen.findByAltText('Signature');
    await userEvent.click(screen.getByText('ink blue'));
    await userEvent.type(screen.getByRole('textbox', { name: 'Date' }), '2 March');
    await userEvent.click(screen.getByRole('button', { name: 'Sign it' }));
    expect(await screen.findByText(/read back as they were/)).toBeTruthy();
    const { body } = sent.at(-1) as (typeof sent)[0];
    expect(body).toMatchObject({ ink: 'blue', typed: [{ text: '2 March', page: 2, x: 360, y: 640 }] });
    const [{ page, box }] = body.places as { page: number; box: Record<string, number> }[];
    expect(page).toBe(2);
    expect(box.x + box.width / 2).toBeCloseTo(64 + 105, 6);
    expect(box.y + box.height).toBeCloseTo(640, 6);
  });
});

describe('what results are written as', () => {
  it('takes a format, names and an exact frame with a part for the photo', async () => {
    const [onRule, onOptions] = [vi.fn(), vi.fn()];
    const { rerender } = render(<RunSettings placement={placement} onRule={onRule} onOptions={onOptions} />);
    await userEvent.click(screen.getByRole('button', { name: 'Files and frame' }));
    await choose('Written as', 'PNG');
    expect(onOptions).toHaveBeenLastCalledWith({ ...options, format: 'png' });
    await choose('Exact frame', '640 × 360 px');
    const frame = { width: 640, height: 360, colour: null };
    expect(onRule).toHaveBeenLastCalledWith({ ...rule, frame });
    rerender(
      <RunSettings placement={{ ...placement, rule: { ...rule, frame } }} onRule={onRule} onOptions={onOptions} />,
    );
    await choose('The photo in the frame', 'fills a part');
    expect(onRule).toHaveBeenLastCalledWith({ ...rule, frame, fit: { x: 0, y: 0, width: 640, height: 360 } });
  });
});

describe('beside the ground', () => {
  const seen = { ratio: 2.6, shareAbove3: 0.41, worst: null };
  const ground: RunGroundView = {
    kind: 'photo',
    ...{ id: 'g', name: 'bridge.jpg', width: 900, height: 600, seconds: null, change: null },
    ...{ made: null, isOutdated: false },
  };
  const side = (change: object = {}) => {
    const does = { onHere: vi.fn(), onGo: vi.fn(), onReset: vi.fn(), onAdd: vi.fn(), onReach: vi.fn() };
    render(
      <PlaceSide
        items={rule.items}
        chosen={0}
        marks={[cardView()]}
        variants={markView().recipe.variants}
        palette={[]}
        ground={ground}
        isOld={false}
        look={{
          ...{ ground: 'g', width: 900, height: 600, photo: { x: 0, y: 0, width: 900, height: 600 } },
          gaps: { px: 640, box: { x: 0, y: 320, width: 640, height: 1 } },
          items: [
            {
              ...{ variant: 'reversed', box: { x: 1, y: 2, width: 160, height: 90 }, seen, thinnestPx: 1.2, tried: [] },
              overTime: [],
            },
          ],
          corners: [{ at: 'upper-left', variant: 'reversed', seen: { ratio: 14, shareAbove3: 1, worst: null } }],
        }}
        reach="all"
        showsSafe={false}
        showsWorst={false}
        weak={{ count: 1, of: 7, first: { ...ground, id: 'h', name: 'hull.jpg' } }}
        options={options}
        onChoose={() => {}}
        onItem={() => {}}
        onRemove={() => {}}
        onShows={() => {}}
        onOptions={() => {}}
        {...does}
        {...change}
      />,
    );
    return does;
  };
  it('stand contrast, the thinnest stroke, gaps, and the better place, each with what to do', async () => {
    const { onHere, onGo, onAdd } = side();
    expect(screen.getByText(/Reversed · 2\.6 : 1, weak/)).toBeTruthy();
    expect(screen.getByText('1.2 px, too thin')).toBeTruthy();
    expect(screen.getByRole('alert').textContent).toContain('Nothing covers 640 px');
    await userEvent.click(screen.getByRole('button', { name: 'Use it here only' }));
    expect(onHere).toHaveBeenCalledWith({ at: 'upper-left' });
    await userEvent.click(screen.getByRole('button', { name: 'Go there' }));
    expect(onGo).toHaveBeenCalledWith('h');
    await userEvent.click(screen.getByRole('button', { name: 'Add a strip' }));
    expect(onAdd).toHaveBeenCalledWith('strip');
  });
  it('what was changed for one alone is taken back in one press', async () => {
    const { onReset } = side({ ground: { ...ground, change: { 0: { opacity: 0.5 } } } });
    await userEvent.click(screen.getByRole('button', { name: 'as the others again' }));
    expect(onReset).toHaveBeenCalled();
  });
});
