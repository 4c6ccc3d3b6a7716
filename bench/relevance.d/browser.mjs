// Times the first page of a catalogue in Chromium: node browser.mjs ADDRESS
import { chromium } from 'playwright-core';

const address = process.argv[2];
const queries = ['paint', 'i need something to edit photos', 'pdf viewer', 'calcultor', 'c++', 'play music'];
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const median = values => values.sort((one, other) => one - other)[values.length >> 1].toFixed(0);
const shown = [], ready = [];
for (let time = 0; time < 5; time++) {
  const page = await (await browser.newContext({ bypassCSP: true })).newPage();
  const begun = performance.now();
  await page.goto(address, { waitUntil: 'commit' });
  await page.waitForSelector('#apps li');
  shown.push(performance.now() - begun);
  await page.waitForFunction(() => crateSearch.count(0));
  ready.push(performance.now() - begun);
  if (time < 4) { await page.context().close(); continue; }
  console.log(`${await page.textContent('#said')}: list shown after ${median(shown)} ms, all words counted after ${median(ready)} ms`);
  const own = await page.evaluate(queries => queries.map(words => {
    const times = [];
    for (let one = 0; one < 5; one++) { const from = performance.now(); crateSearch.search(words, () => true); times.push(performance.now() - from); }
    return times.sort((a, b) => a - b)[2];
  }), queries);
  await page.addScriptTag({ url: 'minisearch.js' });
  const other = await page.evaluate(async queries => {
    const texts = await (await fetch(document.querySelector('script[src*="words-"]').src)).text();
    const from = performance.now();
    let rows;
    new Function('crateWords', texts)(words => { rows = words.rows; });
    const fields = ['name', 'id', 'keywords', 'types', 'categories', 'developer', 'summary', 'description'];
    const index = new MiniSearch({ fields, idField: 'at', searchOptions: { prefix: true, fuzzy: 0.2, boost: { name: 8, keywords: 4, summary: 4 } } });
    index.addAll(rows.map(([id, name, keywords, types, categories, , developer, summary, description], at) => (
      { at, id, name, keywords, types, categories, developer, summary, description })));
    const built = performance.now() - from;
    return [built, queries.map(words => {
      const times = [];
      for (let one = 0; one < 5; one++) { const begun = performance.now(); index.search(words); times.push(performance.now() - begun); }
      return times.sort((a, b) => a - b)[2];
    })];
  }, queries);
  console.log(`MiniSearch: index built in ${other[0].toFixed(0)} ms`);
  for (const [at, words] of queries.entries()) {
    console.log(`"${words}": ${own[at].toFixed(0)} ms, MiniSearch ${other[1][at].toFixed(0)} ms, ratio ${(own[at] / other[1][at]).toFixed(2)}`);
  }
}
await browser.close();
