// npm run restore -- FILE: brings a backup back; what was there before stays under another name.
import { bringBack } from './lib/backup.mjs';
import { withApplicationDatabase } from './lib/steps.mjs';

await withApplicationDatabase('npm run restore -- FILE', (where, file) => {
  const { marks, blobs, former } = bringBack(where, file);
  const kept = former ? ` What was there before stays as the database ${former}.` : '';
  return `${marks} marks and ${blobs} files and pictures are back, every one checked.${kept}`;
});
