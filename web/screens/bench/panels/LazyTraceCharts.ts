import { lazy } from 'react';

export const LazyToleranceChart = lazy(() =>
  import('../../../components/TraceCharts').then((m) => ({ default: m.ToleranceChart })),
);
export const LazyColourCountChart = lazy(() =>
  import('../../../components/TraceCharts').then((m) => ({ default: m.ColourCountChart })),
);
