import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import type { LookView, RunGroundView } from '../../../contract/views';
import { type Item, type MarkItem, readPlacement } from '../../../core/placements/readPlacement';
import { initialVariants } from '../../../core/recipe/recipe';
import { cardView } from '../../../tests/support/webViews';
import ClipChart from './ClipChart';
import { GroundStrip } from './GroundStrip';
import { PlacementSentence } from './PlacementSentence';

const [first] = readPlacement({ items: [{ mark: 'm1', variant: ['black', 'reversed'], opacity: 0.7 }] }).items;
const ground = (id: string, change: Partial<RunGroundView> = {}): RunGroundView => ({
  ...{ id, name: `${id}.jpg`, kind: 'photo', width: 900, height: 600, seconds: null, change: null, made: null },
  ...{ isOutdated: false, ...change },
});
const look = (id: string, variant: string, shareAbove3: number): LookView => ({
  ...{ ground: id, width: 900, height: 600, photo: { x: 0, y: 0, width: 900, height: 600 }, gaps: null, corners: null },
  items: [
    {
      ...{ variant, box: { x: 1, y: 2, width: 30, height: 20 }, tried: [], overTime: [], thinnestPx: 2 },
      seen: { ratio: 8.4, shareAbove3, worst: null },
    },
  ],
});

describe('a placement as a sentence', () => {
  function Own({ onChange }: { onChange: (item: Item) => void }) {
    const [item, setItem] = useState<Item>(first);
    return (
      <PlacementSentence
        item={item}
        marks={[cardView()]}
        variants={initialVariants()}
        palette={[]}
        better="upper-left"
        onChange={(next) => {
          setItem(next);
          onChange(next);
        }}
      />
    );
  }
  it('says the whole rule, and each part is changed where it stands', async () => {
    const changed = vi.fn<(item: Item) => void>();
    const { container } = render(<Own onChange={changed} />);
    expect(container.textContent).toBe(
      'Trust badge, black or reversed, whichever reads better, lower right, 4 % from the edges, 18 % wide, ' +
        '70 % opaque, level.',
    );
    await userEvent.click(screen.getByRole('button', { name: /^Place: / }));
    const places = await screen.findByRole('radiogroup', { name: 'Place' });
    expect(within(places).getByRole('radio', { name: 'lower right', checked: true })).toBeTruthy();
    await userEvent.click(within(places).getByRole('radio', { name: 'upper left' }));
    expect((changed.mock.lastCall?.[0] as MarkItem).at).toBe('upper-left');
    // By keys too.
    screen.getByRole('button', { name: /^Size: / }).focus();
    await userEvent.keyboard('{Enter}');
    const size = await screen.findByRole('spinbutton', { name: 'Size' });
    await userEvent.clear(size);
    await userEvent.type(size, '25{Enter}');
    expect((changed.mock.lastCall?.[0] as MarkItem).size).toEqual({ value: 25, unit: 'pct' });
    expect(container.textContent).toContain('upper left, 4 % from the edges, 25 % wide');
  });
  it('of a strip tells its edge and its height', () => {
    const [strip] = readPlacement({ items: [{ strip: { colour: '#102030', edge: 'lower', heightPx: 40 } }] }).items;
    const { container } = render(
      <PlacementSentence item={strip} marks={[]} variants={[]} palette={[]} better={null} onChange={() => {}} />,
    );
    expect(container.textContent).toMatch(/^A strip of .*#102030.* at the lower edge, 40 px\.$/);
  });
});

describe('the grounds of a run', () => {
  const grounds = [ground('a'), ground('b', { change: { 0: { opacity: 0.5 } } }), ground('c')];
  const looks = new Map([
    ['a', look('a', 'black', 1)],
    ['b', look('b', 'reversed', 0.4)],
  ]);
  const strip = (onGo = vi.fn<(id: string) => void>()) => {
    render(
      <GroundStrip
        grounds={grounds}
        looks={looks}
        isFresh={(id) => id !== 'b'}
        current="a"
        variants={initialVariants()}
        marksOf={() => []}
        onGo={onGo}
        onRemove={() => {}}
      />,
    );
    return onGo;
  };
  it('tell variant, contrast, what is weak, outdated or done by hand, and what is not known yet', () => {
    strip();
    const text = (name: RegExp) => screen.getByRole('button', { name }).textContent;
    expect(text(/^a\.jpg: Black/)).toBe('Black · 8.4 : 1');
    expect(text(/^b\.jpg: Reversed, 8\.4 : 1, weak/)).toBe('Reversed · 8.4 : 1 · weak · updating · by hand');
    expect(text(/^c\.jpg$/)).toBe('checking');
  });
  it('are gone through by keys', async () => {
    const onGo = strip();
    screen.getByRole('button', { name: /^a\.jpg/ }).focus();
    await userEvent.keyboard('{ArrowRight}');
    expect(onGo).toHaveBeenLastCalledWith('b');
    await userEvent.keyboard('{ArrowLeft}');
    expect(onGo).toHaveBeenLastCalledWith('a');
  });
});

it('contrast over a clip’s length names its worst moment', () => {
  const [item] = look('a', 'black', 0.5).items;
  const overTime = [
    { seconds: 1, shares: { black: 1, reversed: 0 } },
    { seconds: 3, shares: { black: 0.1, reversed: 1 } },
  ];
  render(<ClipChart item={{ ...item, overTime }} variants={initialVariants()} />);
  expect(screen.getByRole('figure').textContent).toContain('Worst moment: 3.0 s, 10 % of the outline at 3 : 1.');
  expect(screen.getByRole('figure').textContent).toContain('Reversed');
});
