/** What the browser fetches before Today is seen, gzipped: scripts and styles, without the faces, which come while one reads. */
import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';

const MOST_KIB = 250;
const manifest = JSON.parse(readFileSync('dist/.vite/manifest.json', 'utf8'));
const files = new Set(['index.html']);

function add(name) {
  const chunk = manifest[name];
  if (chunk === undefined) throw new Error(`the build has no ${name}`);
  if (files.has(chunk.file)) return;
  files.add(chunk.file);
  chunk.css?.forEach((sheet) => files.add(sheet));
  chunk.imports?.forEach(add);
}

add('index.html');
add('src/today/Today.tsx');
const kib = [...files].reduce((sum, file) => sum + gzipSync(readFileSync(`dist/${file}`)).length, 0) / 1024;
console.log(`first load: ${kib.toFixed(0)} KiB gzipped in ${files.size} files (at most ${MOST_KIB})`);
if (kib > MOST_KIB) process.exit(1);
