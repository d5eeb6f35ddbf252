import { defineFill } from './fill';

/** The master's own colours. */
export const asIs = defineFill({
  id: 'asIs',
  title: 'As it is',
  params: {},
  describe: () => 'as it is',
  apply: (artwork) => artwork,
});
