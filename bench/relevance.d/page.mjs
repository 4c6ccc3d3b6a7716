// Answers queries, a line each with the language before it (none for English), as the page of a published catalogue does: node page.mjs SITE MOST < QUERIES
import { readFileSync, readdirSync } from 'node:fs';
import { runInNewContext } from 'node:vm';

const [site, most] = process.argv.slice(2);
const read = name => readFileSync(`${site}/pages/${readdirSync(`${site}/pages`).find(file => file.startsWith(name))}`, 'utf8');
let apps;
const search = runInNewContext(`${read('ranking-')};crateSearch`);
runInNewContext(read('apps-'), { crateApps: data => {
  apps = data.rows.map(row => ({ id: row[0], name: row[1], kind: row[4], machines: row[9], isReviewed: row[10] === 1 }));
} });
runInNewContext(read('words-'), { crateWords: words => search.take(apps, words) });
const files = readdirSync(`${site}/pages`);
let spoken = '';
for (const line of readFileSync(0, 'utf8').split('\n')) {
  const [language, words = ''] = line.split('\t');
  if (language !== spoken) {
    const said = [];
    if (files.some(file => file.startsWith(`local-${language}-`)))
      runInNewContext(read(`local-${language}-`), { crateLocal: texts => said.push(texts) });
    search.speak(said);
    spoken = language;
  }
  console.log(search.search(words, () => true).hits.slice(0, Number(most)).map(hit => hit.entry.facts.id).join(' '));
}
