import type { FileFinding } from '../recipe/fileFindings';
import type { WallProblem } from '../wall/auditLogo';
import type { FindingId } from '../findings/finding';

/** Why each finding matters, in two sentences: what it does where the mark is used, and what it comes from. */
export const whyOfFinding: Record<FindingId, string> = {
  'unsure-areas':
    'A gap that is filled, or a white eye that is cut out, only shows on a coloured ground, when the file is in use. ' +
    'The same white can be either, so where shape and neighbours do not settle it you are asked.',
  'source-small':
    'A file larger than its source shows soft edges, on a screen first and in print most. ' +
    'No program can find detail that the source never held, though outlines keep its edges sharp.',
  'source-compressed':
    'Compression leaves ripples round every edge, which come back as dirt on a dark ground. ' +
    'They are forgiven as far as they go; a better original saves what they have covered.',
  'touches-border':
    'What lies beyond the picture’s edge is lost, and the mark ends in a straight cut. ' +
    'It comes of a crop that was too tight, before the file arrived.',
  'ground-uneven':
    'An uneven ground cut at one level leaves clouds on one side or eats the mark on the other. ' +
    'Lamps, folds and scans make grounds drift, so the drift is measured and followed.',
  'ground-noisy':
    'Noise near the edge is taken for mark or for ground by chance, and the outline grows rough. ' +
    'Cameras and strong compression bring it in; a calmer original gives a calmer edge.',
  'ground-checker':
    'The squares were part of the picture, so the file only looked transparent. ' +
    'That happens when a preview is saved in place of the file that it shows.',
  'nothing-left':
    'A file without a visible pixel is empty wherever it is placed. ' +
    'The settings took all of the picture for ground, or it was clear from the start.',
  fringe:
    'A rim of the old ground shows as a light or dark line as soon as the mark stands on another colour. ' +
    'Edge pixels are a mixture of mark and ground, and here some of the ground is left in them.',
  'fringe-kept':
    'A rim of the old ground shows as a light or dark line as soon as the mark stands on another colour. ' +
    'Whoever made the file transparent took the ground away, but left it mixed into the edges.',
  'artwork-eaten':
    'Parts of the mark that are taken for ground leave holes that nobody meant. ' +
    'Their colour is so near to the ground’s that the tolerance reaches them.',
  specks:
    'A speck far from the mark blows up its extents, so that it comes out small and off its place. ' +
    'Dust, scans and compression leave them, mostly too pale to be seen on white.',
  'no-flat-ground':
    'Where no ground can be told from the mark nothing can be cut out by colour. ' +
    'The border shows a photo, a pattern or the mark itself.',
  'opaque-plate':
    'A plate or a strip has one colour and no background of its own: as a mark it is laid under or beside others. ' +
    'A scan of an empty page looks the same; if a mark was meant to be on it, ask for the file again.',
  'strokes-faint':
    'Faint strokes vanish first when a file is made small or printed. ' +
    'The pen left little ink there, or the light of the photograph washed it out.',
  'stray-pieces':
    'Pieces that belong to nothing travel into every file, and into its extents. ' +
    'Printed words, folds and shadows on the paper can look like ink.',
  'lines-remain':
    'Printed lines through a signature look like a mistake once the paper is gone. ' +
    'Where ink and line share a colour one cannot be taken out without the other.',
  'ink-faint':
    'A pale signature is hard to read on anything but white. ' +
    'Pencil and worn pens leave little colour; another fill gives it the strength that it lacks.',
  blurred:
    'Soft edges stay soft in every file, and look worse beside sharp type. ' +
    'The camera was out of focus or moved, or the picture was enlarged before it came.',
  'paper-tint':
    'A tint of the paper in the ink shifts its colour on every other ground. ' +
    'Thin ink lets the paper through, and a photograph mixes the two.',
  'several-marks':
    'Several signatures in one file are one mark in every delivery. ' +
    'They were made on one sheet; each can be a mark of its own.',
  'backing-shape':
    'A box or disc behind the mark returns as soon as a rim or shadow is added. ' +
    'It was drawn as part of the file, so it may be meant: that only you can know.',
  'outline-off':
    'Outlines that leave the pixels change the character of a letter or a pen stroke. ' +
    'A larger tolerance gives fewer nodes and looser curves.',
  'paths-ended':
    'Once a stage has turned paths into pixels, files are only as sharp as those. ' +
    'Some steps work on pixels alone; without them the paths reach the file.',
  'specks-apart':
    'Pieces far from the mark stretch its extents, so that it is placed and sized by empty space. ' +
    'They may belong to it, as a dot over a letter does: that only you can know.',
};

export const whyOfFile: Record<FileFinding['id'], string> = {
  enlarged:
    'An enlarged file is soft where all around it is sharp, and in print the steps show. ' +
    'It asks for more pixels than the original holds.',
  thin:
    'Lines thinner than a pixel fade to a tint, and thinner than a press can print they break up. ' +
    'They were drawn for a larger size than this one.',
  touches:
    'A mark that reaches the edge of its file is cut by the first program that rounds a side. ' +
    'There is no clear space left at this size.',
  margins:
    'Empty margins make the mark come out smaller than the file says, and off its place. ' +
    'The box has other proportions than the mark, or asks for much clear space.',
  'key-clash':
    'What has the key’s colour is keyed out with it, and the mark gets holes in the video. ' +
    'One of its colours is too near to the key.',
};

export const whyOfWall: Record<WallProblem | 'older' | 'gone', string> = {
  'white-box':
    'A logo with its own ground stands in a box as soon as the page is not white. ' +
    'Its file has no transparency: JPEG cannot hold any, and much is exported without.',
  fringe: whyOfFinding['fringe-kept'],
  enlarged:
    'A blurred logo among sharp ones looks careless, though only its file was too small. ' +
    'Too few pixels were stretched over the slot, here or before the file came.',
  margins:
    'Empty margins count as logo when boxes are made equal, so that this one comes out small. ' +
    'The file was exported with its page, not trimmed to what is visible.',
  stretched:
    'A logo out of its proportions is the first thing that its owner sees. ' +
    'It was forced into a box of another shape; circles that became ovals, or edges softer one way, tell so.',
  lost:
    'What hardly stands out from its ground might as well not be there. ' +
    'The logo was made for another ground; its reversed or black variant is made for this one.',
  duplicate:
    'Two copies of one partner take the place of another, or count one twice. ' +
    'The same logo came under two names or in two sizes.',
  older:
    'A page that shows last year’s logo tells its owner that nobody looked. ' +
    'The mark has a newer original than the file on this page.',
  gone: 'Nothing can be shown of a mark that was removed. It can be brought back for 30 days, on the screen of marks.',
};
