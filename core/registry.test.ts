import { describe, expect, it } from 'vitest';
import { fills } from './fills';
import { formats } from './formats';
import { fromMatrix } from './geometry/projective';
import { checkValues, initialValues } from './params';
import { purposes } from './purposes';
import { createRaster } from './raster/raster';
import { defineRegistry } from './registry';
import { stageIds, stages } from './stages';
import { surrounds } from './surrounds';

describe('defineRegistry', () => {
  it('refuses two definitions of one id', () => {
    expect(() => defineRegistry('thing', { id: 'a', title: 'A' }, { id: 'a', title: 'B' })).toThrow('share the id "a"');
  });
  it('names what exists when asked for something that does not', () => {
    expect(() => purposes.get('billboard')).toThrow(/no purpose "billboard"; there are web, watermark/);
  });
});

describe('every definition', () => {
  const withParams = [...stages.all, ...fills.all, ...surrounds.all];
  it.each(withParams.map((d) => [d.id, d] as const))(
    '%s has initial values that pass its own check and survive JSON',
    (_, d) => {
      const values = initialValues(d.params);
      expect(checkValues(d.params, JSON.parse(JSON.stringify(values)), d.id)).toEqual(values);
    },
  );
  it.each(withParams.map((d) => [d.id, d] as const))('%s refuses a setting that it does not have', (_, d) => {
    expect(() => checkValues(d.params, { nonsense: 1 }, d.id)).toThrow('no setting "nonsense"');
  });
  it('has an id and a title of its own', () => {
    for (const registry of [stages, fills, surrounds, formats, purposes]) {
      for (const d of registry.all) expect(d.title.length, d.id).toBeGreaterThan(1);
      expect(new Set(registry.all.map((d) => d.title)).size).toBe(registry.all.length);
    }
  });
  it('lists every stage that the recipe has', () => expect([...stageIds]).toEqual(stages.ids));
});

describe('every stage, fill and surround', () => {
  const picture = createRaster(24, 20);
  for (let i = 0; i < picture.data.length; i += 4)
    picture.data.set(
      (i >> 2) % 24 > 8 && (i >> 2) % 24 < 16 && i > 800 && i < 1500 ? [20, 60, 120, 255] : [250, 250, 250, 255],
      i,
    );
  const before = picture.data.slice();
  it.each(stages.all.map((s) => [s.id, s] as const))(
    '%s leaves its input unchanged and gives the same bytes twice',
    (_, stage) => {
      const input = { raster: picture, toWorking: fromMatrix([1, 0, 0, 1, 0, 0]), reduction: 1 };
      const run = () =>
        stage.run(input, initialValues(stage.params) as never, {
          onStep: () => {},
          pictureOnly: false,
          consumes: false,
        });
      expect(run().picture.raster.data).toEqual(run().picture.raster.data);
      expect(picture.data).toEqual(before);
    },
  );
  it.each([...fills.all.map((f) => [f.id, f] as const), ...surrounds.all.map((s) => [s.id, s] as const)])(
    '%s leaves its input unchanged',
    (_, d) => {
      d.apply(picture, initialValues(d.params));
      expect(picture.data).toEqual(before);
      expect(d.describe(initialValues(d.params)).length).toBeGreaterThan(3);
    },
  );
});
