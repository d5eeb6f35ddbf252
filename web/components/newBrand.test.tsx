import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { paths } from '../../contract/paths';
import { brandView } from '../../tests/support/webViews';
import { NewBrandDialog } from './NewBrandDialog';

const show = (answer: () => Response) => {
  const [onClose, sent] = [vi.fn(), vi.fn()];
  vi.stubGlobal('fetch', async (path: string, init?: RequestInit) => {
    if (init?.method !== 'POST') return Response.json([brandView]);
    sent(path, JSON.parse(String(init.body)));
    return answer();
  });
  render(
    <QueryClientProvider client={new QueryClient()}>
      <NewBrandDialog onClose={onClose} />
    </QueryClientProvider>,
  );
  return { onClose, sent };
};
const name = () => screen.getByRole('textbox');
const add = () => screen.getByRole('button', { name: 'Add brand' }) as HTMLButtonElement;

describe('a new brand', () => {
  it('asks for a name before it can be added; spaces are none', async () => {
    show(() => Response.json(brandView));
    expect(add().disabled).toBe(true);
    await userEvent.type(name(), '   ');
    expect(add().disabled).toBe(true);
  });
  it('is sent without the spaces round its name, and becomes the chosen one', async () => {
    const { onClose, sent } = show(() => Response.json({ ...brandView, id: 'b2', name: 'Ferry' }));
    await userEvent.type(name(), ' Ferry {Enter}');
    await waitFor(() => expect(onClose).toHaveBeenCalledOnce());
    expect(sent).toHaveBeenCalledExactlyOnceWith(paths.brands, { name: 'Ferry', palette: [] });
    expect(localStorage.getItem('tassel-brand')).toBe('b2');
  });
  it('says when the name is taken, and stays', async () => {
    const error = { code: 'store/duplicate-name', message: 'There is a brand "Ferry" already.', details: {} };
    const { onClose } = show(() => Response.json({ error }, { status: 409 }));
    await userEvent.type(name(), 'Ferry{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain('Ferry');
    expect(onClose).not.toHaveBeenCalled();
  });
});
