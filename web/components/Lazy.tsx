import { type ReactNode, Suspense } from 'react';

/** Room for what comes with a chunk of its own, as high as it will be. */
export const Lazy = ({ height, children }: { height: number; children: ReactNode }) => (
  <Suspense fallback={<div style={{ height }} role="status" aria-label="Loading" />}>{children}</Suspense>
);
