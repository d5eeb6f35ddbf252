// npm run backup -- FILE: everything that Tassel keeps, in one file. Works while it runs.
import { backUp } from './lib/backup.mjs';
import { withApplicationDatabase } from './lib/steps.mjs';

await withApplicationDatabase('npm run backup -- FILE', (where, file) => {
  const { marks, blobs } = backUp(where, file);
  return `${file}: ${marks} marks, ${blobs} files and pictures, every one checked`;
});
