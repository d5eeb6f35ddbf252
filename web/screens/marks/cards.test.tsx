import { fireEvent, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { describe, expect, it } from 'vitest';
import { cardView, markView } from '../../../tests/support/webViews';
import type { IntakeRow } from '../../data/useIntake';
import { IntakeList } from './IntakeList';
import { MarkCard } from './MarkCard';
import { sameNames } from './sameNames';

const show = (mark = cardView(), sameName: string | null = null) =>
  render(
    <MemoryRouter>
      <MarkCard mark={mark} sameName={sameName} />
    </MemoryRouter>,
  );
const picture = () => document.querySelector('img') as HTMLImageElement;

describe('a mark’s card', () => {
  it('is named by the words on it', () => {
    show(cardView({ findings: [{ id: 'fringe', title: 'fringe left', weight: 'risk' }] }));
    expect(screen.getByRole('link').textContent).toContain('Trust badge');
    expect(screen.getByRole('link').getAttribute('aria-label')).toBeNull();
    expect(screen.getByText('fringe left')).toBeTruthy();
  });
  it('says that it is at work until its picture is there, and again when the mark has changed', () => {
    const { rerender } = show();
    expect(screen.getByRole('status').textContent).toBe('Cutting out…');
    fireEvent.load(picture());
    expect(screen.queryByRole('status')).toBeNull();
    rerender(
      <MemoryRouter>
        <MarkCard mark={cardView({ revision: 8 })} sameName={null} />
      </MemoryRouter>,
    );
    expect(screen.getByRole('status')).toBeTruthy();
  });
  it('says when there is no picture', () => {
    show();
    fireEvent.error(picture());
    expect(screen.getByText(/No picture/)).toBeTruthy();
  });
  it('counts one variant as one, and tells a finished mark', () => {
    show(cardView({ variantCount: 1, state: 'finished' }), 'other.png');
    expect(screen.getByText(/1 variant/).textContent).toBe('other.png · 1 variant · finished');
  });
});

describe('marks of one name', () => {
  it('are told apart by their files, or by when they came', () => {
    const words = sameNames([
      cardView({ id: 'a', name: 'Badge', originalName: 'old.png' }),
      cardView({ id: 'b', name: 'badge ', originalName: 'new.png' }),
      cardView({ id: 'c', name: 'Ferry', originalName: 'Ferry.svg', createdAt: '2026-03-02T10:00:00Z' }),
      cardView({ id: 'd', name: 'Ferry', originalName: 'Ferry.svg', createdAt: '2026-03-01T10:00:00Z' }),
      cardView({ id: 'e', name: 'Alone' }),
    ]);
    expect([words.get('a'), words.get('b'), words.get('e')]).toEqual(['old.png', 'new.png', undefined]);
    expect(words.get('d')).toMatch(/^1 of 2, /);
    expect(words.get('c')).toMatch(/^2 of 2, /);
  });
});

describe('the list of files that come in', () => {
  const row = (change: Partial<IntakeRow>): IntakeRow => ({
    pdf: null,
    key: 1,
    fileName: 'a.png',
    state: 'waiting',
    taken: null,
    problem: null,
    ...change,
  });
  const list = (rows: IntakeRow[]) =>
    render(
      <MemoryRouter>
        <IntakeList rows={rows} onCancel={() => {}} onClear={() => {}} />
      </MemoryRouter>,
    );
  it('counts while it works, and can be cancelled; afterwards it can be closed', () => {
    const { rerender } = list([
      row({ state: 'done', taken: { mark: markView(), isDuplicate: false } }),
      row({ key: 2, state: 'reading' }),
    ]);
    expect(screen.getByText('Taking in, 1 of 2')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Cancel' })).toBeTruthy();
    rerender(
      <MemoryRouter>
        <IntakeList
          rows={[row({ state: 'refused', problem: 'a.png is damaged.' })]}
          onCancel={() => {}}
          onClear={() => {}}
        />
      </MemoryRouter>,
    );
    expect(screen.getByText('a.png is damaged.')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Close this list' })).toBeTruthy();
  });
  it('names the mark that a known file belongs to', () => {
    list([row({ state: 'known', taken: { mark: markView(), isDuplicate: true } })]);
    expect(screen.getByText(/is here already, as Trust badge/)).toBeTruthy();
  });
  it('is not there without files', () => expect(list([]).container.textContent).toBe(''));
});
