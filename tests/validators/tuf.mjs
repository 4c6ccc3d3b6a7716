// Holds signed catalogues against tuf-js: node tuf.mjs read ADDRESS ROOT TARGET... downloads targets as that client does;
// node tuf.mjs sign FOLDER signs a published folder with the keys and metadata that its test kit makes.
import { copyFileSync, mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const require = createRequire(import.meta.url);
const [what, ...words] = process.argv.slice(2);
if (what === 'read') {
  const { Updater } = require('tuf-js');
  const [address, root, ...targets] = words;
  const metadataDir = mkdtempSync(join(tmpdir(), 'tuf-'));
  copyFileSync(root, join(metadataDir, 'root.json'));
  const updater = new Updater({ metadataDir, metadataBaseUrl: address.replace(/\/$/, ''), targetDir: metadataDir, targetBaseUrl: address.replace(/\/$/, '') });
  await updater.refresh();
  for (const target of targets) {
    const info = await updater.getTargetInfo(target);
    if (!info) throw new Error(`${target} is not a target`);
    await updater.downloadTarget(info, join(metadataDir, 'target'));
    console.log(target);
  }
} else {
  const { initializeTUFRepo } = require('@tufjs/repo-mock/dist/repo.js');
  const [folder] = words;
  const files = ['catalogue.json', ...readdirSync(join(folder, 'parts')).map(name => `parts/${name}`)];
  const made = initializeTUFRepo(files.map(path => ({
    name: path.replace(/[0-9a-f]{64}\./, ''), content: readFileSync(join(folder, path)),
  })));
  const write = (name, metadata) => writeFileSync(join(folder, name), JSON.stringify(metadata.toJSON()));
  write('1.root.json', made.rootMeta);
  write('timestamp.json', made.timestampMeta);
  write('snapshot.json', made.snapshotMeta);
  write('targets.json', made.targetsMeta);
}
