'use strict';
// The page of a catalogue: search as you type, filters, and what a person has ticked, which can be taken away. What is shown and
// ticked stands in the address, so that it can be handed on. Every text of a card goes in as text, never as HTML.
(() => {
  const by = id => document.getElementById(id);
  const page = document.documentElement.dataset, atATime = 40, idle = 70, mostTaken = 500;
  let apps = [], byId = new Map(), shown = atATime, result = null, timer = 0, isLoaded = false;
  const taken = new Map();
  const remembered = `acrate:${location.pathname}`;
  const filters = ['kind', 'category', 'licence', 'sort'];

  // The scripts with the texts of other languages, by language. Nothing else may be loaded, whatever the address says.
  const languages = new Map(Object.entries(JSON.parse(page.languages || '{}'))), spoken = new Map();
  const isKnown = path => [...languages.values()].includes(path);
  const scripts = window.trustedTypes?.createPolicy('languages', {
    createScriptURL: path => isKnown(path) ? path : (() => { throw new TypeError('no script of this catalogue'); })(),
  });

  // apps.js calls this with a row an app, words.js with the texts in which they are found.
  window.crateApps = data => {
    apps = data.rows.map(([id, name, summary, developer, kind, categories, licence, version, date, machines, isReviewed, follows]) => ({
      id, name, summary, developer, kind, categories: categories.map(at => data.categories[at]), licence: data.licences[licence] ?? '',
      version, date, machines, isReviewed: isReviewed === 1, follows,
    }));
    byId = new Map(apps.map(app => [app.id, app]));
    window.crateApps = null;
    fillFilters(data);
    fillLanguages();
    readAddress();
    show();
  };
  window.crateWords = words => {
    crateSearch.take(apps, words);
    window.crateWords = null;
    isLoaded = true;
    speak();
  };
  window.crateLocal = said => {
    spoken.set(said.language, said);
    speak();
  };

  // A language with those that it may fall back on, the most exact first: pt_BR, pt.
  const chainOf = tag => [tag, tag.split('@')[0], tag.split('_')[0].split('@')[0]].filter((one, at, all) => all.indexOf(one) === at);
  const wanted = () => value('language') === '' ? [] : chainOf(value('language')).filter(one => languages.has(one));
  const isSpoken = () => wanted().every(one => spoken.has(one));

  // Takes the language that is chosen, as soon as its texts are there.
  function speak() {
    for (const one of wanted()) load(one);
    if (!isLoaded || !isSpoken()) return void show();
    const chain = wanted().map(one => spoken.get(one));
    for (const app of apps) app.local = null;
    for (const { language, rows } of [...chain].reverse()) {
      for (const [at, name, summary] of rows) {
        const app = apps[at], lang = language.replace('_', '-').replace(/@.*/, '');
        app.local = {
          name: name ? { text: name, lang } : app.local?.name, summary: summary ? { text: summary, lang } : app.local?.summary,
        };
      }
    }
    crateSearch.speak(chain);
    show();
    (function countSome() { if (!crateSearch.count(500)) setTimeout(countSome, 0); })();
  }

  function load(one) {
    if (spoken.has(one) || document.getElementById(`said-${one}`)) return;
    const path = languages.get(one), script = element('script', '', { id: `said-${one}` });
    script.src = scripts ? scripts.createScriptURL(path) : path;
    // Without its texts the apps are shown in English.
    script.addEventListener('error', () => window.crateLocal({ language: one, fillers: [], rows: [] }));
    document.head.append(script);
  }

  const nameOf = app => app.local?.name?.text ?? app.name;
  const shownOf = id => `${id} ${nameOf(byId.get(id))}`;
  const inLanguage = said => said ? { lang: said.lang } : {};

  // The name of a language in itself; Intl knows no modifiers such as @latin.
  function languageName(tag) {
    const [code, modifier] = tag.split('@');
    let name = code;
    try { name = new Intl.DisplayNames([code.replace('_', '-')], { type: 'language' }).of(code.replace('_', '-')); } catch { /* Its tag will do. */ }
    return modifier ? `${name} (${modifier})` : name;
  }

  function fillLanguages() {
    if (languages.size === 0) return;
    const rows = [...languages.keys()].map(tag => ({ tag, text: languageName(tag) }));
    rows.sort((one, other) => one.text.localeCompare(other.text, 'en'));
    for (const { tag, text } of rows) by('language').append(element('option', text, { value: tag, lang: tag.split('@')[0].replace('_', '-') }));
    by('language').closest('label').hidden = false;
  }

  // The language of the browser, where the catalogue has it; '' is English.
  function ownLanguage() {
    const tag = (navigator.languages?.[0] ?? navigator.language ?? 'en').replaceAll('-', '_');
    return chainOf(tag).find(one => languages.has(one)) ?? '';
  }

  function element(name, text, properties = {}) {
    const made = document.createElement(name);
    if (text) made.textContent = text;
    for (const [key, value] of Object.entries(properties)) {
      if (key in made) made[key] = value;
      else made.setAttribute(key, value);
    }
    return made;
  }

  const spaced = category => category.replace(/([a-z])([A-Z])/g, '$1 $2').replace(/^([23]D)/, '$1 ');
  const counted = (number, one) => `${number.toLocaleString('en')} ${one}${number === 1 ? '' : 's'}`;

  function fillFilters(data) {
    const fill = (id, values, label) => {
      const counts = new Map();
      for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
      const rows = [...counts].map(([value, count]) => ({ value: String(value), text: label(value), count }));
      rows.sort((one, other) => other.count - one.count || (one.text < other.text ? -1 : 1));
      for (const row of rows) by(id).append(element('option', `${row.text} (${row.count})`, { value: row.value }));
    };
    fill('kind', apps.map(app => app.kind), kind => data.kinds[kind]);
    fill('category', apps.flatMap(app => app.categories), spaced);
    fill('licence', apps.map(app => app.licence).filter(licence => licence), licence => licence);
  }

  const value = id => by(id)?.value ?? '';
  const isAllowed = app => (value('kind') === '' || app.kind === Number(value('kind')))
    && (value('category') === '' || app.categories.includes(value('category')))
    && (value('licence') === '' || app.licence === value('licence'))
    && (!by('reviewed').checked || app.isReviewed);

  function found() {
    if (!isLoaded) {
      const hits = apps.filter(isAllowed).map(app => ({ entry: { facts: app }, isGuess: false, missing: 0 }));
      return { hits, matches: hits.length, guesses: 0, most: 0 };
    }
    const all = crateSearch.search(value('find'), isAllowed), order = value('sort');
    const orders = {
      newest: (one, other) => one.date < other.date ? 1 : one.date > other.date ? -1 : 0,
      name: (one, other) => nameOf(one).localeCompare(nameOf(other), value('language').split(/[_@]/)[0] || 'en'),
      popular: (one, other) => other.machines - one.machines,
    };
    return orders[order] ? { ...all, hits: [...all.hits].sort((one, other) => orders[order](one.entry.facts, other.entry.facts)) } : all;
  }

  function show() {
    if (apps.length === 0) return void say();
    result = found();
    const list = by('apps'), hits = result.hits.slice(0, shown);
    list.replaceChildren(...hits.map(hit => row(hit)));
    by('more').hidden = result.hits.length <= shown;
    say();
    showTaken();
    writeAddress();
  }

  function say() {
    const typed = value('find').trim(), none = result === null || result.hits.length === 0;
    let text;
    if (apps.length === 0) text = 'This catalogue offers no apps.';
    else if ((typed && !isLoaded) || !isSpoken()) text = 'Reading the texts of the apps…';
    else if (none) text = typed ? 'Nothing matches. Use fewer words, or other ones.' : 'No app is left. Lift a filter.';
    else if (!typed) text = counted(result.matches, 'app');
    else if (result.matches === 0 && result.guesses > 0) text = 'Nothing matches as typed. These may be meant:';
    else if (result.matches === 0) text = 'No app has all these words. These have most of them:';
    else text = counted(result.matches, 'app') + (result.guesses > 0 ? `, and ${result.guesses} that may be meant` : '');
    if (none && [...filters.slice(0, 3)].some(id => value(id)) && typed) text += ' Filters are set.';
    if (by('said').textContent !== text) by('said').textContent = text;
  }

  function row(hit) {
    const app = hit.entry.facts, item = element('li'), tick = element('input', '', { type: 'checkbox', checked: taken.has(app.id) });
    tick.setAttribute('aria-label', `Take ${nameOf(app)}`);
    tick.addEventListener('change', () => {
      if (tick.checked) put(app.id, '');
      else taken.delete(app.id);
      showTaken();
      writeAddress();
    });
    const text = element('div', '', { className: 'text' }), head = element('div', '', { className: 'head' });
    const name = { href: `pages/apps/${app.id}.html`, ...inLanguage(app.local?.name) };
    head.append(element('a', nameOf(app), name), element('span', app.version, { className: 'version' }));
    if (hit.isGuess) head.append(element('span', 'may be meant', { className: 'some' }));
    if (hit.missing > 0) head.append(element('span', 'some words are missing', { className: 'some' }));
    text.append(head, element('div', app.local?.summary?.text ?? app.summary, inLanguage(app.local?.summary)));
    const facts = [app.developer, app.licence, app.categories.map(spaced).join(', ')];
    if (app.machines > 0) facts.push(`on ${counted(app.machines, 'machine')}`);
    text.append(element('div', facts.filter(fact => fact).join(' · '), { className: 'quiet' }));
    item.append(tick, text);
    return item;
  }

  function put(id, follows) {
    const app = byId.get(id);
    if (!app || taken.size >= mostTaken) return;
    taken.set(id, app.follows.some(([selector]) => selector === follows) ? follows : '');
  }

  function showTaken() {
    const list = by('taken');
    const there = [...list.children].map(item => item.dataset.shown);
    if (there.join() !== [...taken.keys()].map(shownOf).join()) list.replaceChildren(...[...taken.keys()].map(takenRow));
    by('empty').hidden = taken.size > 0;
    by('away').hidden = taken.size === 0;
    by('count').textContent = taken.size === 0 ? '' : counted(taken.size, 'app');
    by('jump').textContent = taken.size === 0 ? 'My crate is empty' : `My crate: ${counted(taken.size, 'app')}`;
    by('text').textContent = taken.size === 0 ? '' : text();
    by('done').textContent = '';
  }

  function takenRow(id) {
    const app = byId.get(id), item = element('li'), select = element('select', '', { id: `follows-${id}` });
    item.dataset.id = id;
    item.dataset.shown = shownOf(id);
    select.setAttribute('aria-label', `What ${nameOf(app)} follows`);
    select.append(element('option', `the newest (${app.version})`, { value: '' }));
    for (const [selector, version] of app.follows) {
      const isOne = selector === version;
      select.append(element('option', isOne ? `only ${selector}` : `${selector} (${version})`, { value: selector }));
    }
    select.value = taken.get(id);
    select.addEventListener('change', () => {
      taken.set(id, select.value);
      showTaken();
      writeAddress();
    });
    const remove = element('button', 'Remove', { type: 'button' });
    remove.setAttribute('aria-label', `Remove ${nameOf(app)}`);
    remove.addEventListener('click', () => {
      const next = item.nextElementSibling ?? item.previousElementSibling;
      taken.delete(id);
      show();
      (next ? by('taken').querySelector(`[data-id="${next.dataset.id}"] button`) : by('find'))?.focus();
    });
    item.append(element('a', nameOf(app), { href: `pages/apps/${id}.html`, ...inLanguage(app.local?.name) }), remove, select);
    return item;
  }

  // What is taken away. Names of catalogues are checked as the program does: anything else would be refused there.
  const catalogue = () => /^[a-z][a-z0-9-]{0,39}$/.test(value('catalogue')) ? value('catalogue') : page.name;
  const references = () => [...taken].map(([id, follows]) => `${catalogue()}:${id}${follows ? `@${follows}` : ''}`);
  const quote = text => `"${[...text].map(letter => letter === '"' || letter === '\\' ? `\\${letter}`
    : letter < ' ' || letter === '\x7f' ? `\\u${letter.charCodeAt(0).toString(16).padStart(4, '0')}` : letter).join('')}"`;
  const shell = text => /^[\w@%+=:,./-]+$/.test(text) ? text : `'${text.replaceAll("'", "'\\''")}'`;

  // Where this catalogue lies: the folder of this page.
  function place() {
    const here = new URL('.', location.href);
    return here.protocol === 'file:' ? decodeURIComponent(here.pathname) : here.origin + here.pathname;
  }

  function bundle() {
    const title = value('title').trim();
    return '# A bundle: apps to equip a machine with (acrate equip FILE).\nbundle = 1\n'
      + (title ? `title = ${quote(title)}\n` : '')
      + `\n[[catalogues]]\nname = ${quote(catalogue())}\nlocation = ${quote(place())}\n`
      + (page.root ? `root_sha256 = ${quote(page.root)}\n` : '')
      + references().map(reference => `\n[[apps]]\nreference = ${quote(reference)}\n`).join('');
  }

  const ways = {
    bundle: { make: bundle, ending: '.bundle.toml', say: file => `On the machine: acrate equip ${file}` },
    list: {
      make: () => `# From ${page.title}: acrate install --list-file FILE\n${references().join('\n')}\n`, ending: '.list',
      say: file => `On the machine: acrate install --list-file ${file}`,
    },
    command: {
      make: () => `acrate catalogue add ${catalogue()} ${shell(place())}${page.root ? ` --trust ${page.root}` : ''}\nacrate install ${references().join(' ')}\n`, ending: '.sh',
      say: () => 'Leave out the first line where the machine has the catalogue.',
    },
  };
  const way = () => ways[document.querySelector('input[name=way]:checked').value];
  const text = () => way().make();

  function fileName() {
    const plain = crateSearch.fold(value('title')).replaceAll(' ', '-').replace(/[^a-z0-9-]/g, '').slice(0, 60);
    return (plain || 'apps') + way().ending;
  }

  by('copy').addEventListener('click', async () => {
    try {
      await navigator.clipboard.writeText(text());
      by('done').textContent = 'Copied.';
    } catch {
      getSelection().selectAllChildren(by('text'));
      by('done').textContent = 'Selected: press Ctrl+C to copy.';
    }
  });
  by('save').addEventListener('click', () => {
    const address = URL.createObjectURL(new Blob([text()], { type: 'application/octet-stream' }));
    element('a', '', { href: address, download: fileName() }).click();
    setTimeout(() => URL.revokeObjectURL(address), 10000);
    by('done').textContent = `Saved as ${fileName()}. ${way().say(fileName())}`;
  });
  by('clear').addEventListener('click', () => {
    taken.clear();
    show();
    by('find').focus();
  });
  by('more').addEventListener('click', () => {
    const first = shown;
    shown += atATime;
    show();
    by('apps').children[first]?.querySelector('a').focus();
  });

  // The address: find=WORDS&kind=0&take=ID@SELECTOR,ID. It may have been written by anybody.
  function readAddress() {
    const said = new URLSearchParams(location.hash.slice(1));
    by('find').value = said.get('find') ?? '';
    for (const id of filters) {
      const wanted = said.get(id) ?? '';
      by(id).value = [...by(id).options].some(option => option.value === wanted) ? wanted : '';
    }
    by('reviewed').checked = said.has('reviewed');
    const language = said.get('language');
    by('language').value = language !== null && (language === '' || languages.has(language)) ? language : ownLanguage();
    let ticked = said.get('take');
    if (ticked === null) {
      try { ticked = localStorage.getItem(remembered); } catch { /* No storage: nothing is remembered. */ }
    }
    taken.clear();
    for (const one of [...(ticked ?? '').split(','), ...said.getAll('add')].slice(0, mostTaken)) {
      const [id, follows = ''] = one.split('@', 2);
      put(id, follows);
    }
  }

  function writeAddress() {
    const said = new URLSearchParams();
    if (value('find')) said.set('find', value('find'));
    for (const id of filters) if (value(id)) said.set(id, value(id));
    if (by('reviewed').checked) said.set('reviewed', '');
    if (value('language') !== ownLanguage()) said.set('language', value('language'));
    const ticked = [...taken].map(([id, follows]) => follows ? `${id}@${follows}` : id).join(',');
    if (ticked) said.set('take', ticked);
    try { localStorage.setItem(remembered, ticked); } catch { /* No storage: nothing is remembered. */ }
    const wanted = said.size > 0 ? `#${said.toString().replaceAll('%40', '@').replaceAll('%2C', ',')}` : ' ';
    if (wanted.trim() !== location.hash) history.replaceState(null, '', wanted === ' ' ? location.pathname + location.search : wanted);
  }

  function soon() {
    clearTimeout(timer);
    timer = setTimeout(() => { shown = atATime; show(); }, idle);
  }

  by('find').addEventListener('input', soon);
  by('asked').addEventListener('submit', event => { event.preventDefault(); soon(); });
  for (const id of filters) by(id).addEventListener('change', soon);
  by('language').addEventListener('change', () => { shown = atATime; speak(); });
  by('reviewed').addEventListener('change', soon);
  for (const id of ['title', 'catalogue']) by(id).addEventListener('input', showTaken);
  for (const one of document.querySelectorAll('input[name=way]')) one.addEventListener('change', showTaken);
  by('jump').addEventListener('click', event => {
    event.preventDefault();
    by('crate').scrollIntoView();
    by('crate').focus();
  });
  addEventListener('hashchange', () => { if (apps.length > 0) { readAddress(); speak(); } });
  document.documentElement.classList.add('scripted');
})();
