import { useQuery } from '@tanstack/react-query';
import { useEffect, useSyncExternalStore } from 'react';
import type { BrandView } from '../../contract/views';
import { brandsQuery } from './queries';

const KEY = 'tassel-brand';
const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** The chosen brand: remembered in this browser, else the first one. */
export function useBrand(): {
  brand: BrandView | null;
  brands: BrandView[];
  isLoading: boolean;
  error: unknown;
  choose: (id: string) => void;
} {
  const chosen = useSyncExternalStore(subscribe, () => localStorage.getItem(KEY));
  const { data: brands = [], isLoading, error } = useQuery(brandsQuery());
  const brand = brands.find((b) => b.id === chosen) ?? brands[0] ?? null;
  const choose = (id: string) => {
    localStorage.setItem(KEY, id);
    listeners.forEach((call) => call());
  };
  return { brand, brands, isLoading, error, choose };
}

/**
 * The brand that something opened belongs to. It becomes the chosen one: whoever goes on from there stays in it.
 * @param id  undefined while it is not known yet
 */
export function useBrandOf(id: string | undefined): BrandView | null {
  const { brand, brands, choose } = useBrand();
  const own = brands.find((b) => b.id === id);
  const ownId = own?.id;
  useEffect(() => {
    if (ownId) choose(ownId);
  }, [ownId]);
  return own ?? brand;
}
