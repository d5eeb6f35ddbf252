import type { ErrorCode } from '../core/errors';
import type { Finding } from '../core/findings/finding';
import type { FileReceipt } from '../core/formats/receipt';
import type { Way } from '../core/inspect/inspectPicture';
import type { RectPx, StopValue } from '../core/params';
import type { Item, MarkItem, Placement } from '../core/placements/readPlacement';
import type { Anchor } from '../core/placements/placement';
import type { Recipe, Variant } from '../core/recipe/recipe';
import type { OwnPurpose, StandardLine } from '../core/recipe/standardLines';

/** The body of every answer that is not a success. */
export interface ErrorBody {
  readonly error: {
    readonly code: ErrorCode;
    readonly message: string;
    readonly details: Record<string, unknown>;
    /** What the server's log calls the request. */
    readonly request?: string;
  };
}

export interface PaletteColour {
  readonly name: string;
  readonly hex: string;
}

export interface NamedGradient {
  readonly name: string;
  readonly stops: readonly StopValue[];
}

export interface BrandView {
  readonly id: string;
  readonly name: string;
  readonly palette: readonly PaletteColour[];
  readonly gradients: readonly NamedGradient[];
  readonly pattern: string;
  /** The variants that new marks start with; null for the usual ones. */
  readonly startSet: readonly Variant[] | null;
  /** The size lines that the brand delivers by; null where it has none of its own. */
  readonly standardLines: readonly StandardLine[] | null;
  readonly ownPurposes: readonly OwnPurpose[];
  /** Counts changes of the brand itself; a change names the one it is based on. */
  readonly edition: number;
  readonly markCount: number;
}

/** What else a changed brand changed. */
export interface BrandChanged {
  readonly brand: BrandView;
  readonly marks: number;
  readonly variants: number;
  /** Marks whose delivered files are out of date by it. */
  readonly outdated: number;
}

export interface GroundView {
  readonly id: string;
  readonly name: string;
  readonly tone: 'light' | 'mid' | 'dark';
  /** A flat colour; null for a photo. */
  readonly hex: string | null;
  readonly width: number;
  readonly height: number;
  /** A photo's address; null for a colour. */
  readonly picture: string | null;
  /** One of the proofs on the bench. */
  readonly isProof: boolean;
}

/** What was found in a file at take-in, and what was made of it. */
export interface FoundView {
  readonly format: string;
  readonly way: Way;
  readonly groundHex: string | null;
  readonly noise: number;
  readonly notes: readonly string[];
  /** Separate signatures on the sheet; 0 where it holds none. */
  readonly markCount: number;
  /** One sentence: what it is, and what is proposed. */
  readonly sentence: string;
}

/** A PDF file that something is to be taken from; it is kept for a day. */
export interface PdfView {
  readonly sha: string;
  readonly name: string;
  readonly pages: readonly { readonly widthPt: number; readonly heightPt: number }[];
  /** More than `pages` where a file has very many. */
  readonly pageCount: number;
}

/** What can be picked on a page of a PDF; lengths in points from its upper left corner. */
export interface PageView {
  readonly widthPt: number;
  readonly heightPt: number;
  readonly objects: readonly PageObject[];
  /** Objects that stand together, by their numbers. */
  readonly groups: readonly { readonly objects: readonly number[]; readonly box: RectPx }[];
  /** Text whose letters are no paths. */
  readonly texts: readonly RectPx[];
  readonly pictures: readonly (RectPx & { readonly canTake: boolean })[];
}

export interface PageObject {
  /** Path data. */
  readonly d: string;
  readonly box: RectPx;
  readonly rule: 'nonzero' | 'evenodd';
  /** Of a gradient the colour in its middle. */
  readonly colour: string;
  readonly opacity: number;
}

/** Where a mark came from, who may use it, and until when. */
export interface MarkNotes {
  readonly source: string;
  readonly permission: string;
  /** The last day, YYYY-MM-DD; null for no end. */
  readonly until: string | null;
}

/** How long a removed mark can be brought back. */
export const RETURN_DAYS = 30;

export interface MarkCard {
  readonly id: string;
  readonly brandId: string;
  readonly name: string;
  readonly kind: 'logo' | 'signature';
  readonly state: 'working' | 'finished';
  /** Counts changes of name, state and kind; such a change names the one it is based on. */
  readonly details: number;
  readonly revision: number;
  readonly variantCount: number;
  readonly findings: readonly Pick<Finding, 'id' | 'title' | 'weight'>[];
  /** Whether this revision's findings are known yet. */
  readonly isLookedAt: boolean;
  readonly notes: MarkNotes;
  readonly originalName: string;
  readonly width: number;
  readonly height: number;
  readonly createdAt: string;
  readonly updatedAt: string;
  readonly removedAt: string | null;
}

export interface MarkView extends MarkCard {
  readonly found: FoundView;
  readonly recipe: Recipe;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** What stages start from: pixels, or paths that stay paths. */
  readonly source: 'picture' | 'drawing';
  /** Width of the reduced picture for the fast preview; a drawing is rendered at it. */
  readonly reducedWidth: number;
  /** Names what stages start from: another one once the original was replaced. */
  readonly sourceKey: string;
}

/** One change of a mark's recipe. */
export interface HistoryEntry {
  readonly revision: number;
  /** The revision that it changed; null for the first. */
  readonly parent: number | null;
  /** What was done, in words. */
  readonly why: string;
  /** What somebody called it, to find it again. */
  readonly name: string | null;
  readonly madeAt: string;
  /** Who was signed in; null where nobody is asked. */
  readonly madeBy: string | null;
  readonly isCurrent: boolean;
}

/** An original that was replaced by a newer file. */
export interface FormerOriginal {
  readonly id: number;
  readonly name: string;
  readonly replacedAt: string;
}

export interface TakenIn {
  readonly mark: MarkView;
  /** The same bytes were there already; `mark` is the one they belong to. */
  readonly isDuplicate: boolean;
}

export interface DeliveredFileView {
  readonly position: number;
  readonly name: string;
  readonly variant: string;
  readonly purpose: string;
  readonly receipt: FileReceipt;
}

export interface DeliveryView {
  readonly id: string;
  readonly markId: string;
  readonly markName: string;
  readonly revision: number;
  /** All marks that it holds files of, each at the revision that they were made of. */
  readonly marks: readonly { readonly id: string; readonly name: string; readonly revision: number }[];
  /** One of them was changed since. */
  readonly isOutdated: boolean;
  readonly state: 'waiting' | 'making' | 'ready' | 'failed' | 'cancelled';
  readonly fileCount: number;
  readonly doneCount: number;
  readonly zipName: string;
  readonly problem: string | null;
  readonly createdAt: string;
  readonly finishedAt: string | null;
  readonly files: readonly DeliveredFileView[];
}

/** What results of a run are written as. */
export interface RunOptions {
  /** As the photo itself, or another format. */
  readonly format: 'same' | 'jpeg' | 'png' | 'webp' | 'tiff';
  readonly quality: number;
  readonly keepsLocation: boolean;
  /** Of JPEG files: how much less colours are sampled; as the photo itself where nothing is said. */
  readonly subsampling?: '4:4:4' | '4:2:0';
  readonly isProgressive?: boolean;
  readonly longEdgePx: number | null;
  /** Of names, such as {photo}-{mark}. */
  readonly pattern: string;
  /** Of clips: when the mark is there, and which part is written; seconds, null for no such end. */
  readonly clip?: ClipOptions;
}

export interface ClipOptions {
  readonly from: number | null;
  readonly until: number | null;
  readonly fade: number;
  readonly cutFrom: number | null;
  readonly cutUntil: number | null;
}

/** What differs on one ground alone: parts of an item, by its number. */
export type GroundChange = Readonly<Record<string, Partial<Omit<MarkItem, 'mark'>>>>;

/** A photo or clip that a placement is run over. */
export interface RunGroundView {
  readonly id: string;
  readonly name: string;
  readonly kind: 'photo' | 'clip';
  readonly width: number;
  readonly height: number;
  readonly seconds: number | null;
  readonly change: GroundChange | null;
  /** What was made of it. */
  readonly made: { readonly name: string; readonly size: number } | null;
  /** Whether something changed since. */
  readonly isOutdated: boolean;
}

export interface PlacementView {
  readonly id: string;
  readonly brandId: string;
  readonly name: string;
  readonly rule: Placement;
  readonly options: RunOptions;
  readonly edition: number;
  readonly run: {
    readonly state: 'idle' | 'waiting' | 'making' | 'ready' | 'failed' | 'cancelled';
    readonly problem: string | null;
    readonly count: number;
    readonly done: number;
    readonly beganAt: string | null;
  };
  readonly grounds: readonly RunGroundView[];
}

/** A placement in a list. */
export interface PlacementCard {
  readonly id: string;
  readonly name: string;
  readonly items: readonly Item[];
  readonly groundCount: number;
  readonly state: PlacementView['run']['state'];
}

/** How well a variant can be seen where it stands. */
export interface SeenView {
  readonly ratio: number;
  readonly shareAbove3: number;
  /** Where its outline stands out least, px of the ground. */
  readonly worst: { readonly x: number; readonly y: number; readonly ratio: number } | null;
}

/** How a placement comes out on one ground, before anything is written; px of the ground, or of the exact frame. */
export interface LookView {
  readonly ground: string;
  readonly width: number;
  readonly height: number;
  /** Where the photo lies in it. */
  readonly photo: RectPx;
  readonly gaps: { readonly px: number; readonly box: RectPx } | null;
  readonly items: readonly {
    /** Null for a strip. */
    readonly variant: string | null;
    readonly box: RectPx;
    readonly seen: SeenView | null;
    /** Its thinnest stroke there, px; null of a strip, or where it has none. */
    readonly thinnestPx: number | null;
    readonly tried: readonly (SeenView & { readonly variant: string })[];
    /** Of a clip: how the variant stands from its beginning to its end. */
    readonly overTime: readonly { readonly seconds: number; readonly shares: Readonly<Record<string, number>> }[];
  }[];
  /** Of the first mark, in every place by name, where that was asked for; the best first. */
  readonly corners: readonly { readonly at: Anchor; readonly variant: string; readonly seen: SeenView }[] | null;
}

/** A line of a page that can be signed; points from its upper left corner. */
export interface LineView {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly room: number;
  readonly score: number;
  readonly words: string;
}

/** What a print sheet is made by; lengths as they are typed. */
export interface SheetOrderView {
  readonly markId: string;
  readonly variant: string;
  readonly paper: string;
  readonly mat: string | null;
  readonly ppi: number;
  readonly at: string;
  readonly inset: string;
  readonly size: string;
  readonly groundId: string | null;
  readonly format: 'pdf' | 'tiff' | 'png';
}

/** A print sheet that is kept. */
export interface PieceView {
  readonly id: string;
  readonly name: string;
  readonly order: SheetOrderView;
  readonly state: 'working' | 'ready' | 'archived';
}
