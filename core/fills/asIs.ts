import { defineFill } from './fill';

/** The master's own colours. */
export const asIs = defineFill({
  id: 'asIs',
  title: 'As it is',
  params: {},
  needsOpenMaster: () => false,
  describe: () => 'as it is',
  apply: (master) => master,
});
