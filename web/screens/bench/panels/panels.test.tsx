import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { initialRecipe } from '../../../../core/recipe/recipe';
import type { AreaFact, FlatWayFacts, PaperWayFacts } from '../../../../core/stages/cutOutFacts';
import { markView } from '../../../../tests/support/webViews';
import { AreaList } from './AreaList';
import { CropPanel } from './CropPanel';
import { FoundMarks } from './FoundMarks';
import { CutOutPanel } from './CutOutPanel';
import { Findings } from './Findings';

const area = (number: number, change: Partial<AreaFact> = {}): AreaFact => ({
  number,
  x: number * 10,
  y: 5,
  areaPx: 100,
  bounds: { x: 0, y: 0, width: 9, height: 9 },
  decision: 'open',
  certainty: 0.9,
  isUnsure: false,
  isChosen: false,
  group: number,
  asks: null,
  isPale: false,
  ...change,
});
const size = { width: 900, height: 900 };
const flat: FlatWayFacts = {
  way: 'flat',
  groundHex: '#f4efe4',
  noise: 1.25,
  drift: 0,
  tolerance: 14,
  steady: { from: 6, to: 20, start: 14 },
  groundLeft: [1, 0.5],
  artworkEaten: [0, 0.2],
  areas: [area(1), area(2)],
};
const ink: PaperWayFacts = {
  way: 'paper',
  inkHex: '#21409a',
  paperHex: '#f0e8d8',
  level: 0.2,
  steady: { from: 0.1, to: 0.3, start: 0.2 },
  levels: [0.1, 0.5],
  strayPieces: [9, 0],
  inkLost: [0, 0.4],
  strokePx: 6,
  lineCount: 4,
  marks: [],
};

describe('the list of enclosed areas', () => {
  const list = (areas: AreaFact[]) => {
    const onChoose = vi.fn();
    render(<AreaList areas={areas} picture={null} size={size} onChoose={onChoose} />);
    return onChoose;
  };
  it('shows sure areas that are alike as one row with a count, unsure ones first', async () => {
    const onChoose = list([area(1), area(2), area(3, { isUnsure: true }), area(4)]);
    const rows = screen.getAllByRole('listitem');
    expect(rows).toHaveLength(2);
    expect(rows[0].textContent).toContain('3');
    expect(rows[1].textContent).toContain('3 areas, 100 px');
    await userEvent.click(within(rows[1]).getByText('solid'));
    expect(onChoose.mock.calls[0][0].map((a: AreaFact) => a.number)).toEqual([1, 2, 4]);
    expect(onChoose.mock.calls[0][1]).toBe('solid');
  });
  it('opens a whole group, or all that are similar, from one row', async () => {
    const areas = [area(1, { decision: 'solid', areaPx: 9000, group: 7 }), area(2, { decision: 'solid', group: 7 })];
    const onChoose = list(areas);
    await userEvent.click(screen.getAllByRole('button', { name: /^similar/ })[0]);
    await userEvent.click(await screen.findByText('Open this group of 2'));
    expect(onChoose).toHaveBeenCalledWith(areas, 'open');
    expect(screen.queryByText(/similar areas$/), 'nothing else is of its size').toBeNull();
  });
  it('puts a question about areas that belong together in one row, and answers for all of them', async () => {
    const of = (n: number) => area(n, { isUnsure: true, decision: 'solid', group: 3, asks: 'figure' });
    const onChoose = list([of(1), of(2), of(3), area(4, { isUnsure: true, asks: 'area' })]);
    expect(screen.getByText('2 questions')).toBeTruthy();
    expect(screen.getAllByRole('listitem')).toHaveLength(2);
    const row = screen.getAllByRole('listitem')[0];
    expect(row.textContent).toContain('figure in a filled shape, 3 areas');
    await userEvent.click(within(row).getByText('open'));
    expect(onChoose.mock.calls[0][0].map((a: AreaFact) => a.number)).toEqual([1, 2, 3]);
    expect(onChoose.mock.calls[0][1]).toBe('open');
  });
  it('shows a few rows first, and all when asked', async () => {
    list(Array.from({ length: 9 }, (_, k) => area(k + 1, { areaPx: 100 * 4 ** k })));
    expect(screen.getAllByRole('listitem')).toHaveLength(6);
    await userEvent.click(screen.getByText('Show all 9'));
    expect(screen.getAllByRole('listitem')).toHaveLength(9);
  });
});

describe('the panel of the cut-out', () => {
  const { cutOut } = initialRecipe().stages;
  const panel = (values = cutOut, facts: FlatWayFacts | PaperWayFacts | null = null, isWhole = true) => {
    const onCommit = vi.fn();
    const nothing = () => {};
    render(
      <CutOutPanel
        values={values}
        facts={facts}
        isWhole={isWhole}
        found={markView().found}
        palette={[]}
        picture={null}
        size={size}
        isPicking={false}
        onPickGround={nothing}
        onChoose={nothing}
        onAddColour={nothing}
        onPreview={nothing}
        onCommit={onCommit}
      />,
    );
    return onCommit;
  };
  it('says that it is being measured before a result is there, and shows no value that is none', () => {
    panel();
    expect(screen.getAllByRole('status').length).toBeGreaterThanOrEqual(2);
    expect(document.body.textContent).not.toMatch(/#000000|none found|levels ·/);
  });
  it('shows what was measured once it is', () => {
    panel(cutOut, flat);
    expect(screen.getByText('#F4EFE4')).toBeTruthy();
    expect(screen.getByText('14 levels · in the steady range')).toBeTruthy();
    expect(screen.getByText('2 areas, 100 px')).toBeTruthy();
  });
  it('calls what a smaller picture measured near, and what somebody chose by its number', () => {
    panel(cutOut, flat, false);
    expect(screen.getByText('about 14 levels · in the steady range')).toBeTruthy();
    cleanup();
    panel({ ...cutOut, tolerance: 17 }, flat, false);
    expect(screen.getByText(/^17 levels/)).toBeTruthy();
  });
  it('does the same for ink', () => {
    panel({ ...cutOut, way: 'paper' });
    expect(document.body.textContent).toContain('being measured');
    expect(document.body.textContent).not.toMatch(/#000000|none found/);
    panel({ ...cutOut, way: 'paper' }, ink);
    expect(screen.getByText('4 taken out')).toBeTruthy();
    expect(screen.getByText('20 % · in the steady range')).toBeTruthy();
  });
  it('takes a picked ground off, and goes back to automatic', async () => {
    const onCommit = panel({ ...cutOut, ground: ['#ffffff', '#eeeeee'] }, flat);
    await userEvent.click(screen.getByRole('button', { name: /^#FFFFFF ×/ }));
    expect(onCommit.mock.calls[0][0]).toMatchObject({ ground: ['#eeeeee'], tolerance: null });
    await userEvent.click(screen.getByText('All back to automatic'));
    expect(onCommit.mock.calls[1][0]).toEqual(cutOut);
  });
  it('changes the way', async () => {
    const onCommit = panel(cutOut, flat);
    await userEvent.click(screen.getByText('Ink on paper'));
    expect(onCommit).toHaveBeenCalledWith({ ...cutOut, way: 'paper' }, 'Change the way');
  });
});

describe('the panel of the crop', () => {
  const { crop } = initialRecipe().stages;
  const panel = (values = crop) => {
    const [onChange, onMode] = [vi.fn(), vi.fn()];
    const nothing = () => {};
    render(
      <CropPanel
        mark={markView()}
        values={values}
        chosen={null}
        candidates={null}
        mode="region"
        frameExtents={{ x: 100, y: 200, width: 300, height: 400 }}
        isBusy={false}
        noun="Mark"
        gap={null}
        onGap={nothing}
        onMode={onMode}
        onChange={onChange}
        onTake={nothing}
        onWhole={nothing}
        onMakeMarks={nothing}
      />,
    );
    return { onChange, onMode };
  };
  it('crops to the mark with a little room, keeping the other settings', async () => {
    const { onChange } = panel();
    await userEvent.click(screen.getByRole('button', { name: 'Crop to the mark' }));
    const [values, why] = onChange.mock.calls[0];
    expect(why).toBe('Crop to the mark');
    expect(values).toMatchObject({ version: crop.version, turn: 0, corners: null });
    expect(values.rect.x).toBeLessThan(100);
    expect(values.rect.x + values.rect.width).toBeGreaterThan(400);
  });
  it('straightens along a line, and resets the turn where there is one', async () => {
    const { onChange, onMode } = panel({ ...crop, turn: 12 });
    await userEvent.click(screen.getByRole('button', { name: 'Straighten along a line' }));
    expect(onMode).toHaveBeenCalledWith('line');
    await userEvent.click(screen.getByRole('button', { name: 'Reset turn' }));
    expect(onChange.mock.calls[0][0]).toMatchObject({ turn: 0 });
    expect(screen.getByRole('slider', { name: 'Turn by hand' })).toBeTruthy();
  });
});

describe('pictures found on a drawn sheet', () => {
  const mark = (number: number, x: number) => ({
    ...{ x, y: 10, width: 40, height: 30, number, angleDeg: 0, at: { x: x + 5, y: 20 } },
    region: { x, y: 10, width: 40, height: 30 },
    drawn: { roomPx: 4, isBacked: true },
  });
  const show = (found = [mark(1, 10), mark(2, 60), mark(3, 200)]) => {
    const on = { gap: vi.fn(), take: vi.fn(), makeMarks: vi.fn() };
    render(
      <FoundMarks
        found={found}
        taken={null}
        hasChosen={false}
        noun="Mark"
        isBusy={false}
        gap={null}
        onGap={on.gap}
        onTake={on.take}
        onWhole={() => {}}
        onMakeMarks={on.makeMarks}
      />,
    );
    return on;
  };
  it('are joined by hand, and taken as one or made marks of together with the others', async () => {
    const on = show();
    await userEvent.click(screen.getByRole('checkbox', { name: 'Join mark 1 with others' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Join mark 2 with others' }));
    await userEvent.click(screen.getByRole('button', { name: 'Take the 2 as one' }));
    expect(on.take.mock.calls[0][0]).toMatchObject({ x: 10, width: 90, region: { x: 10, width: 90 }, number: 1 });
    await userEvent.click(screen.getByRole('button', { name: 'Make each a separate mark' }));
    expect(on.makeMarks.mock.calls[0][0].map((m: { number: number }) => m.number)).toEqual([1, 3]);
  });
  it('are parted by another gap', async () => {
    const on = show();
    const field = screen.getByRole('spinbutton', { name: 'Gap between pictures' });
    await userEvent.type(field, '3{Enter}');
    expect(on.gap).toHaveBeenLastCalledWith(0.03);
  });
});

describe('findings', () => {
  it('say what was measured, lead to the place, and mend it at a press', async () => {
    const [onShow, onFix] = [vi.fn(), vi.fn()];
    const finding = {
      id: 'fringe' as const,
      stage: 'cutOut',
      weight: 'risk' as const,
      title: 'fringe left',
      detail: 'Some edges keep the old ground.',
      places: [{ x: 1, y: 2 }],
      fixes: [{ label: 'More clean-up', change: { cleanUp: 1.4 } }],
    };
    render(<Findings findings={[finding]} isOld onShow={onShow} onFix={onFix} />);
    expect(screen.getByRole('region', { name: 'Findings' }).getAttribute('aria-busy')).toBe('true');
    expect(screen.getByText('Fringe left.')).toBeTruthy();
    await userEvent.click(screen.getByText('Show me'));
    expect(onShow).toHaveBeenCalledWith(finding);
    await userEvent.click(screen.getByText('More clean-up'));
    expect(onFix).toHaveBeenCalledWith(finding, finding.fixes[0]);
  });
});
