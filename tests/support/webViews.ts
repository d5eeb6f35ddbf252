import type { BrandView, DeliveryView, MarkCard, MarkView } from '../../contract/views';
import { initialRecipe } from '../../core/recipe/recipe';

export const brandView: BrandView = {
  id: 'b1',
  name: 'Harrowmere',
  palette: [
    { name: 'Lamp black', hex: '#1c1b1d' },
    { name: 'Enamel cream', hex: '#e9ddc4' },
  ],
  gradients: [],
  pattern: '{mark}-{variant}-{width}',
  edition: 1,
  startSet: null,
  standardLines: null,
  ownPurposes: [],
  markCount: 1,
};

export const cardView = (change: Partial<MarkCard> = {}): MarkCard => ({
  id: 'm1',
  brandId: 'b1',
  name: 'Trust badge',
  kind: 'logo',
  state: 'working',
  details: 1,
  notes: { source: '', permission: '', until: null },
  revision: 7,
  variantCount: 3,
  findings: [],
  isLookedAt: true,
  originalName: 'badge.jpg',
  width: 900,
  height: 900,
  createdAt: '2026-03-01T10:00:00.000Z',
  updatedAt: '2026-03-01T10:00:00.000Z',
  removedAt: null,
  ...change,
});

export const markView = (change: Partial<MarkView> = {}): MarkView => ({
  ...cardView(),
  found: {
    format: 'JPEG',
    way: 'flat',
    groundHex: '#f4efe4',
    noise: 1,
    notes: [],
    markCount: 0,
    sentence: 'Flat ground #f4efe4: cut out.',
  },
  recipe: initialRecipe(),
  canUndo: false,
  canRedo: false,
  source: 'picture',
  reducedWidth: 900,
  sourceKey: 'k1',
  ...change,
});

export const deliveryView = (change: Partial<DeliveryView> = {}): DeliveryView => ({
  id: 'd1',
  markId: 'm1',
  markName: 'Trust badge',
  revision: 7,
  marks: [{ id: 'm1', name: 'Trust badge', revision: 7 }],
  isOutdated: false,
  state: 'ready',
  fileCount: 3,
  doneCount: 3,
  zipName: 'trust-badge-files.zip',
  problem: null,
  createdAt: '2026-03-01T10:00:00.000Z',
  finishedAt: '2026-03-01T10:00:02.000Z',
  files: [],
  ...change,
});
