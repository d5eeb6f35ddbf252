import * as yup from 'yup';
import { CoreError, isCoreError } from '../core/errors';
import { readPlacement } from '../core/placements/readPlacement';
import { type Recipe, type Variant, readRecipe, readVariant } from '../core/recipe/recipe';
import { readOwnPurpose, readStandardLine } from '../core/recipe/standardLines';
import { readWallRule } from '../core/wall/wallRule';

/** The format of a bundle's manifest; docs/reference/bundles.md tells of every field. */
export const BUNDLE_FORMAT = 'tassel-bundle';
export const BUNDLE_VERSION = 1;
export const MANIFEST = 'bundle.json';
export const SUMS = 'SHA256SUMS';

/** A file of the bundle. */
export interface BundledFile {
  readonly path: string;
  readonly name: string;
}

export interface BundledRevision {
  /** The revision that it changed, by its number among these; null for the first. */
  readonly parent: number | null;
  readonly why: string;
  readonly name: string | null;
  readonly madeAt: string;
  readonly recipe: Recipe;
}

export interface BundledMark {
  readonly key: string;
  readonly name: string;
  readonly kind: 'logo' | 'signature';
  readonly state: 'working' | 'finished';
  readonly notes: { readonly source: string; readonly permission: string; readonly until: string | null };
  /** What was said of it at take-in. */
  readonly found: { readonly sentence: string; readonly notes: readonly string[] };
  readonly original: BundledFile;
  /** Originals that were replaced, the oldest first. */
  readonly former: readonly (BundledFile & { readonly replacedAt: string })[];
  readonly revisions: readonly BundledRevision[];
  /** The current one, by its number among these. */
  readonly current: number;
  /** The SHA-256 of what its stages start from, to be the same where it is taken in. */
  readonly working: string;
  /** For whoever opens the bundle with other programs. */
  readonly master: { readonly png: string; readonly svg: string | null };
}

export interface BundledBrand {
  readonly name: string;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  readonly gradients: readonly unknown[];
  readonly pattern: string;
  readonly startSet: readonly Variant[] | null;
  readonly standardLines: readonly unknown[] | null;
  readonly ownPurposes: readonly unknown[];
}

export interface BundledGround {
  readonly key: string;
  readonly name: string;
  readonly tone: 'light' | 'mid' | 'dark';
  readonly hex: string | null;
  readonly file: string | null;
  readonly width: number;
  readonly height: number;
  readonly isProof: boolean;
}

export interface BundledPlacement {
  readonly name: string;
  /** Its marks named by their keys. */
  readonly rule: Record<string, unknown>;
  readonly options: Record<string, unknown>;
}

export interface BundledWall {
  readonly name: string;
  /** A photo for its ground named by its key. */
  readonly rule: Record<string, unknown>;
  readonly slots: readonly {
    readonly mark: string;
    readonly file: string;
    readonly original: string;
    readonly shows: 'file' | 'mark' | null;
    readonly variant: string | null;
    readonly squeeze: number;
  }[];
}

export interface Manifest {
  readonly format: typeof BUNDLE_FORMAT;
  readonly version: number;
  readonly kind: 'mark' | 'brand';
  readonly brand: BundledBrand;
  readonly marks: readonly BundledMark[];
  readonly grounds: readonly BundledGround[];
  readonly placements: readonly BundledPlacement[];
  readonly walls: readonly BundledWall[];
}

const text = (most: number, least = 1) =>
  yup
    .string()
    .defined()
    .min(least)
    .max(most)
    .matches(/^[^\u0000]*$/); // eslint-disable-line no-control-regex
const key = () => text(40).matches(/^[a-z0-9-]+$/);
const hex = () =>
  yup
    .string()
    .defined()
    .matches(/^#[0-9a-f]{6}$/i);
const sha = () =>
  yup
    .string()
    .defined()
    .matches(/^[0-9a-f]{64}$/);
const path = () => text(300).matches(/^(?!.*(^|\/)\.)[^\\:*?"<>|]+$/);
const when = () =>
  yup
    .string()
    .defined()
    .matches(/^\d{4}-\d\d-\d\dT[\d:.]+Z$/);
const whole = (most: number) => yup.number().defined().integer().min(0).max(most);
const things = yup.object().defined();
const only = <S extends yup.ObjectShape>(shape: S) => yup.object(shape).defined().noUnknown();
const list = (of: yup.AnySchema, most: number) => yup.array().of(of).defined().max(most);

const file = { path: path(), name: text(200) };
const colour = only({ name: text(60), hex: hex() });
const revision = only({
  ...{ parent: whole(100_000).nullable(), why: text(200), name: text(80).nullable(), madeAt: when(), recipe: things },
});
const markSchema = only({
  ...{ key: key(), name: text(120), kind: yup.string().defined().oneOf(['logo', 'signature']) },
  state: yup.string().defined().oneOf(['working', 'finished']),
  notes: only({
    ...{ source: text(500, 0), permission: text(500, 0) },
    until: yup
      .string()
      .defined()
      .nullable()
      .matches(/^\d{4}-\d\d-\d\d$/),
  }),
  found: only({ sentence: text(1000), notes: list(text(500), 100) }),
  original: only(file),
  former: list(only({ ...file, replacedAt: when() }), 500),
  revisions: list(revision, 20_000).min(1),
  current: whole(20_000),
  working: sha(),
  master: only({ png: path(), svg: path().nullable() }),
});
const manifestSchema = only({
  format: yup.string().defined().oneOf([BUNDLE_FORMAT]),
  version: yup.number().defined(),
  kind: yup.string().defined().oneOf(['mark', 'brand']),
  brand: only({
    ...{ name: text(120), palette: list(colour, 40), pattern: text(120) },
    gradients: list(
      only({
        name: text(60),
        stops: list(only({ at: yup.number().defined().min(0).max(1), colour: hex() }), 12).min(2),
      }),
      20,
    ),
    ...{ startSet: list(things, 40).nullable(), standardLines: list(things, 200).nullable() },
    ownPurposes: list(things, 60),
  }),
  marks: list(markSchema, 5000),
  grounds: list(
    only({
      ...{ key: key(), name: text(120), tone: yup.string().defined().oneOf(['light', 'mid', 'dark']) },
      ...{ hex: hex().nullable(), file: path().nullable(), width: whole(40_000), height: whole(40_000) },
      isProof: yup.boolean().defined(),
    }),
    500,
  ),
  placements: list(only({ name: text(200), rule: things, options: things }), 2000),
  walls: list(
    only({
      ...{ name: text(200), rule: things },
      slots: list(
        only({
          ...{ mark: key(), file: text(200), original: path(), variant: text(80).nullable() },
          shows: yup.string().defined().nullable().oneOf(['file', 'mark', null]),
          squeeze: yup.number().defined().min(0.1).max(10),
        }),
        300,
      ),
    }),
    500,
  ),
});

const broken = (what: string, cause?: unknown) => new CoreError('bundle/invalid', what, {}, { cause });

/**
 * A manifest from outside, checked whole: its shape, every recipe, every reference.
 * @throws CoreError 'bundle/invalid' or 'bundle/too-new', saying where
 */
export function readManifest(value: unknown): Manifest {
  const version = (value as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > BUNDLE_VERSION)
    throw new CoreError('bundle/too-new', `The bundle is of version ${version}; this program reads ${BUNDLE_VERSION}.`);
  let raw: Manifest;
  try {
    raw = manifestSchema.validateSync(value, { strict: true, abortEarly: true }) as unknown as Manifest;
  } catch (cause) {
    if (!(cause instanceof yup.ValidationError)) throw cause;
    throw broken(`Its manifest is not right at ${cause.path || 'the top'}: ${cause.message}.`, cause);
  }
  const keys = new Set([...raw.marks, ...raw.grounds].map((m) => m.key));
  if (keys.size !== raw.marks.length + raw.grounds.length) throw broken('Two marks or grounds share a key.');
  if (raw.kind === 'mark' && raw.marks.length !== 1) throw broken('A bundle of a mark holds one mark.');
  const isMark = new Set(raw.marks.map((m) => m.key));
  for (const { rule } of raw.placements) checkKeys(rule, isMark);
  for (const { slots, rule } of raw.walls) {
    const odd = slots.find((s) => !isMark.has(s.mark));
    if (odd) throw broken(`A wall names the mark ${odd.mark}, which is not in the bundle.`);
    const { groundId } = rule as { groundId?: unknown };
    if (groundId && !raw.grounds.some((g) => g.key === groundId))
      throw broken(`A wall stands on the ground ${String(groundId)}, which is not in the bundle.`);
  }
  return within('The bundle', () => ({
    ...raw,
    brand: {
      ...raw.brand,
      startSet: raw.brand.startSet?.map((v, k) => readVariant(v, `brand.startSet[${k}]`)) ?? null,
      standardLines: raw.brand.standardLines?.map((l, k) => readStandardLine(l, `brand.standardLines[${k}]`)) ?? null,
      ownPurposes: raw.brand.ownPurposes.map((p, k) => readOwnPurpose(p, `brand.ownPurposes[${k}]`)),
    },
    marks: raw.marks.map(readMark),
    placements: raw.placements.map((p) => ({
      ...p,
      rule: readPlacement(p.rule) as unknown as Record<string, unknown>,
    })),
    walls: raw.walls.map((w) => ({ ...w, rule: readWallRule(w.rule) as unknown as Record<string, unknown> })),
  }));
}

function checkKeys(rule: Record<string, unknown>, known: ReadonlySet<string>): void {
  const items = Array.isArray(rule.items) ? (rule.items as Record<string, unknown>[]) : [];
  const odd = items.find((i) => i && i.mark !== undefined && !known.has(String(i.mark)));
  if (odd) throw broken(`A placement names the mark ${String(odd.mark)}, which is not in the bundle.`);
}

function readMark(mark: BundledMark): BundledMark {
  const { revisions, current, name } = mark;
  if (!revisions[current]) throw broken(`The current revision of ${name} is not in the bundle.`);
  const odd = revisions.findIndex((r, k) => r.parent !== null && r.parent >= k);
  if (odd >= 0) throw broken(`Revision ${odd + 1} of ${name} comes before the one that it changed.`);
  const read = revisions.map((r, k) => ({
    ...r,
    recipe: within(`Revision ${k + 1} of ${name}`, () => readRecipe(r.recipe)),
  }));
  return { ...mark, revisions: read };
}

/** What core says of a part of it, said of the bundle. */
function within<T>(what: string, read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (!isCoreError(error) || error.code.startsWith('bundle/')) throw error;
    throw broken(`${what} cannot be read. ${error.message}`, error);
  }
}
