import { useQuery } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
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
