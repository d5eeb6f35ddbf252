import { lazy } from 'react';

// Charts are large, so they come when the first is to be shown.
export const LazyCostChart = lazy(() =>
  import('../../../components/CostChart').then((m) => ({ default: m.CostChart })),
);
