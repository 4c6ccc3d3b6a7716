'use strict';
// Finds and ranks apps as "acrate search" does, with the same texts, weights and readings of a query. The numbers here are those
// of SearchRanking, SearchQuery, CardSearch and PurposeMatch; a test compares the order of both.
const crateSearch = (() => {
  const forForm = 0.93, forBeginning = 0.86, forWholeName = 2.5, forWordStart = 1, forLetterStart = 0.3, forLetterShare = 0.6;
  const forNameShare = 0.35, forSummaryShare = 0.3, forWholeSummary = 0.5, forWholePurpose = 0.25, forSecondReading = 0.2, forReview = 0.05, forNoApp = -0.4;
  const perLetterWrong = 0.35, perDoubt = 0.1, behind = 100000, perMissing = 0.2, ofPurpose = 2, mostLacking = 0.8, longStart = 8,
    forAskedType = 1.1, forTextBeside = 0.3;
  const weak = 600, mostShown = 20, mostGuesses = 8, mostBeside = 5, leastBeside = 5, mostCounted = 600, mostTogether = 6, mostRare = 5;
  const mostWords = 12, mostJoined = 8, shortestJoined = 4, mostPurposes = 3, mostForms = 12, maxQuery = 200;
  const fields = { wholeName: 0, nameStart: 1, nameWords: 2, keyword: 3, fileType: 4, purpose: 5, summary: 6, category: 7, developer: 8,
    area: 9, description: 10 };

  const forLocal = 0.97, shortestLocal = 5, shortestStem = 4;
  let accents = new Map(), synonyms = new Map(), fillers = new Set(), purposes = [], entries = [], localFillers = new Set(), localStem = null;
  let counted = 0, forms = new Map(), localForms = new Map(), letters = null;

  // For each word the apps that have it, in any text or in a name; the words in order, so that those with a beginning lie together.
  const inTexts = { apps: new Map(), sorted: null }, inNames = { apps: new Map(), sorted: null };

  // The beginning of apps.js and words.js: a row an app, in one order.
  function take(facts, words) {
    accents = new Map(words.accents);
    synonyms = new Map(words.synonyms);
    fillers = new Set(words.fillers);
    purposes = words.purposes.map(([asked, categories, said]) => ({ asked, categories, words: said }));
    entries = words.rows.map((row, at) => {
      const [id, name, keywords, types, categories, areas, developer, summary, description] = row;
      const one = together(id), other = together(name);
      return {
        at, facts: facts[at], id, name, squashed: one === other ? one : `${one} ${other}`, keywords, types, categories, areas, developer,
        summary, description, early: description.slice(0, 200), isApp: facts[at].kind < 2, isReviewed: facts[at].isReviewed,
        names: [[id, one], [name, other]], local: [],
      };
    });
  }

  // The texts of other languages that the person reads, the most exact first: the content of local-LANGUAGE.js. Without any,
  // English alone.
  function speak(languages) {
    localStem = languages.length > 0 ? stemmers[languages[0].language.split(/[_@]/)[0]] ?? null : null;
    localFillers = new Set(languages.flatMap(said => said.fillers));
    for (const entry of entries) {
      entry.local = [];
      entry.names.length = 2;
    }
    for (const { rows } of languages) {
      for (const [at, , , name, keywords, summary, description] of rows) {
        const entry = entries[at];
        entry.local.push({ name, keywords, summary, description });
        entry.names.push([name, together(name)]);
      }
    }
    counted = 0;
    forms = new Map();
    localForms = new Map();
    for (const index of [inTexts, inNames]) {
      index.apps.clear();
      index.sorted = null;
    }
  }

  function note(index, texts, app) {
    for (const word of new Set(texts.join(' ').split(' '))) {
      const there = index.apps.get(word);
      if (there) there.push(app);
      else if (word) index.apps.set(word, [app]);
    }
  }

  // Notes the words of some more apps; true when all are noted.
  function count(apps) {
    const end = Math.min(entries.length, counted + apps);
    for (; counted < end; counted++) {
      const entry = entries[counted];
      const names = [entry.id, entry.name, entry.squashed];
      for (const said of entry.local) names.push(said.name, together(said.name), said.keywords);
      note(inNames, names, counted);
      note(inTexts, [...names, entry.keywords, entry.types, entry.categories, entry.areas, entry.developer, entry.summary,
        entry.description, ...entry.local.flatMap(said => [said.summary, said.description])], counted);
      if (localStem) noteLocalForms(entry);
    }
    if (counted < entries.length) return false;
    if (!inTexts.sorted) {
      for (const index of [inTexts, inNames]) index.sorted = [...index.apps.keys()].sort();
      letters = Uint32Array.from(inTexts.sorted, lettersOf);
      for (const word of inTexts.sorted) {
        const stem = english(word);
        if (stem !== word) noteForm(forms, stem, word);
      }
    }
    return true;
  }

  function noteForm(forms, stem, word) {
    const list = forms.get(stem);
    if (!list) forms.set(stem, [word]);
    else if (list.length < mostForms) list.push(word);
  }

  function noteLocalForms(entry) {
    const words = entry.local.flatMap(said => [said.name, said.keywords, said.summary, said.description]).join(' ').split(' ');
    for (const word of new Set(words)) {
      if (!word) continue;
      const stem = localStem(word);
      if (!localForms.get(stem)?.includes(word)) noteForm(localForms, stem, word);
    }
  }

  const together = text => text.replaceAll(' ', '');
  const without = (word, ending) => word.slice(0, word.length - ending.length);

  // SearchText.Fold: words in lower case without accents, joined by single spaces.
  function fold(text) {
    let folded = '';
    const endWord = () => { if (folded && !folded.endsWith(' ')) folded += ' '; };
    const isWord = letter => letter !== undefined && /[\p{L}\p{Nd}]/u.test(letter);
    const letters = [...text];
    for (let at = 0; at < letters.length; at++) {
      const letter = letters[at], lower = letter.toLowerCase();
      if (letter === '.' && !isWord(letters[at - 1]) && /^net$/i.test(letters.slice(at + 1, at + 4).join('')) && !isWord(letters[at + 4])) {
        endWord();
        folded += 'dot';
        continue;
      }
      const isAlone = at > 0 && /[a-z]/i.test(letters[at - 1]) && (at === 1 || !isWord(letters[at - 2]));
      if (letter === '#' && isAlone && !isWord(letters[at + 1])) { folded += 'sharp'; continue; }
      if (letter === '+' && isAlone && letters[at + 1] === '+' && !isWord(letters[at + 2])) { folded += 'plusplus'; continue; }
      if (/^[a-z0-9]$/.test(lower)) folded += lower;
      else if (accents.has(lower)) folded += accents.get(lower);
      else if (letter > '\x7f' && /^[\p{L}\p{Nd}]/u.test(letter)) folded += lower;
      else if (!/^\p{Mn}$/u.test(letter)) endWord();
    }
    return folded.trimEnd();
  }

  // WordPlace.Find: 2 where a text has a word, 1 where one begins with it, otherwise 0.
  function place(text, word) {
    let begins = 0;
    for (let at = text.indexOf(word); at >= 0; at = text.indexOf(word, at + 1)) {
      if (at > 0 && text[at - 1] !== ' ') continue;
      const end = at + word.length;
      if (end === text.length || text[end] === ' ') return 2;
      begins = 1;
    }
    return begins;
  }

  // English stems after M. F. Porter's "English (Porter2) stemming algorithm", as in EnglishStemmer.
  const english = (() => {
    const exceptions = new Map(Object.entries({ skis: 'ski', skies: 'sky', dying: 'die', lying: 'lie', tying: 'tie', idly: 'idl',
      gently: 'gentl', ugly: 'ugli', early: 'earli', only: 'onli', singly: 'singl', sky: 'sky', news: 'news', howe: 'howe',
      atlas: 'atlas', cosmos: 'cosmos', bias: 'bias', andes: 'andes' }));
    const kept = new Set(['inning', 'outing', 'canning', 'herring', 'earring', 'proceed', 'exceed', 'succeed']);
    const second = [['ational', 'ate'], ['ization', 'ize'], ['fulness', 'ful'], ['ousness', 'ous'], ['iveness', 'ive'],
      ['tional', 'tion'], ['biliti', 'ble'], ['lessli', 'less'], ['entli', 'ent'], ['ation', 'ate'], ['alism', 'al'], ['aliti', 'al'],
      ['ousli', 'ous'], ['iviti', 'ive'], ['fulli', 'ful'], ['enci', 'ence'], ['anci', 'ance'], ['abli', 'able'], ['izer', 'ize'],
      ['ator', 'ate'], ['alli', 'al'], ['bli', 'ble'], ['ogi', 'og'], ['li', '']];
    const third = [['ational', 'ate'], ['tional', 'tion'], ['alize', 'al'], ['icate', 'ic'], ['iciti', 'ic'], ['ative', ''],
      ['ical', 'ic'], ['ness', ''], ['ful', '']];
    const fourth = ['ement', 'ance', 'ence', 'able', 'ible', 'ment', 'ant', 'ent', 'ism', 'ate', 'iti', 'ous', 'ive', 'ize', 'ion', 'al',
      'er', 'ic'];
    const isVowel = letter => 'aeiouy'.includes(letter);
    const hasVowel = text => /[aeiouy]/.test(text);

    function regionFrom(word, from) {
      for (let at = from + 1; at < word.length; at++) if (!isVowel(word[at]) && isVowel(word[at - 1])) return at + 1;
      return word.length;
    }

    function isShort(word, first) {
      const end = word.length;
      if (first < end) return false;
      if (end === 2) return isVowel(word[0]) && !isVowel(word[1]);
      return end > 2 && !isVowel(word[end - 1]) && !'wxY'.includes(word[end - 1]) && isVowel(word[end - 2]) && !isVowel(word[end - 3]);
    }

    function step1a(word) {
      if (word.endsWith('sses')) return word.slice(0, -2);
      if (word.endsWith('ied') || word.endsWith('ies')) return word.slice(0, word.length > 4 ? -2 : -1);
      if (word.endsWith('us') || word.endsWith('ss')) return word;
      return word.endsWith('s') && word.length > 2 && hasVowel(word.slice(0, -2)) ? word.slice(0, -1) : word;
    }

    function step1b(word, first) {
      for (const ending of ['eedly', 'ingly', 'edly', 'eed', 'ing', 'ed']) {
        if (!word.endsWith(ending)) continue;
        const left = without(word, ending);
        if (ending.startsWith('eed')) return left.length >= first ? `${left}ee` : word;
        if (!hasVowel(left)) return word;
        if (/(at|bl|iz)$/.test(left)) return `${left}e`;
        if (/([bdfgmnprt])\1$/.test(left)) return left.slice(0, -1);
        return isShort(left, first) ? `${left}e` : left;
      }
      return word;
    }

    function replaced(word, endings, first, isAllowed) {
      for (const [ending, by] of endings) {
        if (!word.endsWith(ending)) continue;
        const left = without(word, ending);
        return left.length >= first && isAllowed(left, ending) ? left + by : word;
      }
      return word;
    }

    function step4(word, region) {
      for (const ending of fourth) {
        if (!word.endsWith(ending)) continue;
        const left = without(word, ending);
        return left.length >= region && (ending !== 'ion' || /[st]$/.test(left)) ? left : word;
      }
      return word;
    }

    function step5(word, first, region) {
      const left = word.slice(0, -1);
      if (word.endsWith('e')) return left.length >= region || (left.length >= first && !isShort(left, left.length)) ? left : word;
      return word.endsWith('ll') && left.length >= region ? left : word;
    }

    function porter(word) {
      if (word.length < 3 || !/^[a-z]+$/.test(word)) return word;
      if (exceptions.has(word)) return exceptions.get(word);
      let stem = word.replace(/^y/, 'Y');
      for (let at = 1; at < stem.length; at++) {
        if (stem[at] === 'y' && isVowel(stem[at - 1])) stem = `${stem.slice(0, at)}Y${stem.slice(at + 1)}`;
      }
      const first = stem.match(/^(gener|commun|arsen)/)?.[0].length ?? regionFrom(stem, 0), region = regionFrom(stem, first);
      stem = step1a(stem);
      if (kept.has(stem)) return stem;
      stem = step1b(stem, first);
      if (stem.length > 2 && /[^aeiouy][yY]$/.test(stem)) stem = `${stem.slice(0, -1)}i`;
      stem = replaced(stem, second, first, (left, ending) =>
        ending === 'ogi' ? left.endsWith('l') : ending === 'li' ? /[cdeghkmnrt]$/.test(left) : true);
      stem = replaced(stem, third, first, (left, ending) => ending !== 'ative' || left.length >= region);
      return step5(step4(stem, region), first, region).replaceAll('Y', 'y');
    }

    // An abbreviation loses its s too: dvds.
    return word => word.length > 2 && /^[a-z]*[^s]s$/.test(word) && !/[aeiouy]/.test(word) ? word.slice(0, -1) : porter(word);
  })();

  // LightStemmers: the endings of number, gender and case, after J. Savoy.
  const stemmers = {
    de: word => {
      if (word.length < shortestLocal) return word;
      const ending = ['ern', 'em', 'en', 'er', 'es', 'e'].find(one => word.endsWith(one) && word.length - one.length >= shortestStem);
      return ending ? without(word, ending) : word.replace(/[sn]$/, '');
    },
    fr: word => {
      if (word.length < shortestLocal) return word;
      if (word.endsWith('eaux')) return word.slice(0, -1);
      if (word.endsWith('aux')) return `${word.slice(0, -2)}l`;
      let stem = word.replace(/[sx]$/, '');
      if (stem.length >= shortestLocal && stem.endsWith('er')) stem = stem.slice(0, -2);
      while (stem.length > shortestStem && stem.endsWith('e')) stem = stem.slice(0, -1);
      return stem.length > shortestStem && stem.at(-1) === stem.at(-2) ? stem.slice(0, -1) : stem;
    },
    es: word => {
      if (word.length < shortestLocal) return word;
      if (word.endsWith('eses')) return word.slice(0, -2);
      if (word.endsWith('ces')) return `${word.slice(0, -3)}z`;
      return word.replace(/[oae]s$|[oae]$/, '');
    },
  };

  // What was typed, and the ways to read it.
  function queryOf(words, endings = new Set()) {
    return { readings: [reading(words)], isLoose: false, distance: 0, doubts: 0, most: 0, facts: new Map(), endings };
  }

  // The words that were typed as the ending of a file, such as ".svg".
  const endingsIn = text => new Set(text.split(' ').map(word => word.replace(/^\*+/, '')).filter(word => word.length > 1 && word[0] === '.')
    .map(word => fold(word.slice(1))).filter(ending => ending && !ending.includes(' ')));

  const factsOf = (query, word) => query.facts.get(word) ?? { forms: [], importance: 1 };
  const reading = (words, purpose = null) => ({ words, purpose, squashed: purpose ? '' : words.join('') });

  // The place of the first word that is not before some letters.
  function placeOf(index, beginning) {
    let low = 0, high = index.sorted.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (index.sorted[middle] < beginning) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  const hasBeginning = beginning => inTexts.sorted[placeOf(inTexts, beginning)]?.startsWith(beginning) ?? false;
  const numberOf = word => inTexts.apps.get(word)?.length ?? 0;

  // Adds the apps that have a word, or a word that begins with it.
  function addApps(index, word, isPrefix, into) {
    if (!isPrefix) for (const app of index.apps.get(word) ?? []) into.add(app);
    else {
      for (let at = placeOf(index, word); index.sorted[at]?.startsWith(word); at++) {
        for (const app of index.apps.get(index.sorted[at])) into.add(app);
      }
    }
    return into;
  }

  const understood = (words, endings) => inAllReadings(queryOf(words, endings));

  // CardSearch.Understood.
  function inAllReadings(query) {
    const { words } = query.readings[0];
    if (words.length >= 2 && words.length <= mostJoined) {
      for (let at = 0; at + 1 < words.length; at++) {
        for (const joined of [words[at] + words[at + 1], words[at + 1] + words[at]]) {
          if (joined.length < shortestJoined || !hasBeginning(joined)) continue;
          query.readings.push({ ...reading([...words.slice(0, at), joined, ...words.slice(at + 2)]), isJoined: true });
        }
      }
    }
    const isFiller = word => fillers.has(word) || localFillers.has(word);
    const telling = [...new Set(words.filter(word => !isFiller(word)))].slice(0, mostWords);
    if (telling.length > 0 && telling.length < words.length) query.readings.push(reading(telling));
    for (const { purpose, taken } of asked(words).slice(0, mostPurposes)) {
      query.readings.push(reading([...new Set(words.filter(word => !taken.has(word) && !isFiller(word)))].slice(0, mostWords), purpose));
    }
    const isOne = query.readings.every(one => one.words.length < 2);
    for (const one of query.readings) {
      for (const word of one.words) query.facts.set(word, { forms: formsOf(word), importance: isOne ? 1 : importanceOf(word) });
    }
    return query;
  }

  function asked(words) {
    const byStem = new Map();
    const note = (stem, taken) => { if (!byStem.has(stem)) byStem.set(stem, taken); };
    const stemOf = word => synonyms.get(english(word)) ?? english(word);
    for (const word of words) note(stemOf(word), [word]);
    for (let at = 0; at + 1 < words.length; at++) note(stemOf(words[at] + words[at + 1]), [words[at], words[at + 1]]);
    const found = [];
    for (const purpose of purposes) {
      const phrases = purpose.asked.filter(stems => stems.every(stem => byStem.has(stem)));
      for (const stems of phrases) found.push({ purpose, stems });
    }
    found.sort((one, other) => other.stems.length - one.stems.length);
    const once = new Set();
    return found.filter(one => !once.has(one.purpose) && once.add(one.purpose))
      .map(one => ({ purpose: one.purpose, taken: new Set(one.stems.flatMap(stem => byStem.get(stem))) }));
  }

  function formsOf(word) {
    const stem = english(word), found = new Set(forms.get(stem) ?? []);
    if (inTexts.apps.has(stem)) found.add(stem);
    if (localStem) for (const form of localForms.get(localStem(word)) ?? []) found.add(form);
    found.delete(word);
    return [...found];
  }

  function importanceOf(word) {
    const apps = Math.max(2, entries.length), there = Math.min(numberOf(word), mostCounted, apps - 1);
    return Math.max(0.1, Math.log(apps / (1 + there)) / Math.log(apps));
  }

  // A word of a reading, as it is looked for in texts.
  function askedWord(query, one, at) {
    const word = one.words[at], facts = factsOf(query, word);
    const isPrefix = (query.isLoose || (at === one.words.length - 1 && !query.endings.has(word))) && !(word.length === 1 && word < '\x80');
    const quality = text => {
      if (!text) return 0;
      const there = place(text, word);
      if (there === 2) return 1;
      for (const form of facts.forms) if (place(text, form) === 2) return forForm;
      return isPrefix && there ? forBeginning : 0;
    };
    return {
      word, isPrefix, forms: facts.forms, importance: facts.importance, quality,
      is: other => other === word || (isPrefix && other.startsWith(word)) || facts.forms.includes(other),
      length: word.length,
      in(entry) {
        let score = 0, where = fields.description;
        const attempt = (text, weight, field) => {
          if (weight <= score || !text) return;
          const found = weight * quality(text);
          if (found > score) [score, where] = [found, field];
        };
        attempt(entry.name, 1, fields.nameWords);
        attempt(entry.id, 1, fields.nameWords);
        attempt(entry.squashed, 0.95, fields.nameWords);
        for (const said of entry.local) {
          attempt(said.name, forLocal, fields.nameWords);
          attempt(said.keywords, 0.75 * forLocal, fields.keyword);
          attempt(said.summary, 0.72 * forLocal, fields.summary);
          attempt(said.description, 0.3, fields.description);
        }
        attempt(entry.keywords, 0.75, fields.keyword);
        attempt(entry.types, 0.72, fields.fileType);
        attempt(entry.summary, 0.72, fields.summary);
        attempt(entry.categories, 0.62, fields.category);
        attempt(entry.developer, 0.55, fields.developer);
        attempt(entry.areas, 0.33, fields.area);
        attempt(entry.early, 0.35, fields.description);
        attempt(entry.description, 0.28, fields.description);
        return query.endings.has(word) && place(entry.types, word) === 2 ? [forAskedType + forTextBeside * score, fields.fileType] : [score, where];
      },
    };
  }

  function ofName(query, one, entry) {
    const asked = one.squashed, mayBegin = (asked.length > 1 || asked >= '\x80') && !query.endings.has(asked);
    let best = 0;
    for (const [words, name] of entry.names) {
      if (name === asked) return [forWholeName, fields.wholeName];
      if (!mayBegin || !name.startsWith(asked)) continue;
      const toWordEnd = lettersToWordEnd(words, asked.length);
      best = Math.max(best, asked.length >= longStart || toWordEnd === asked.length
        ? forWordStart + asked.length / name.length : forLetterStart + forLetterShare * asked.length / toWordEnd);
    }
    return [best, fields.nameStart];
  }

  // How many letters there are to the end of the word in which the last of so many letters is.
  function lettersToWordEnd(words, letters) {
    let counted = 0;
    for (let at = 0; at < words.length; at++) {
      if (words[at] !== ' ') counted++;
      else if (counted >= letters) break;
    }
    return counted;
  }

  function nameShare(words, entry) {
    let best = 0;
    for (const [name] of entry.names) {
      let letters = 0, matched = 0;
      for (const word of name.split(' ')) {
        letters += word.length;
        const fit = words.find(one => one.is(word));
        if (fit) matched += Math.min(word.length, fit.length + 2);
      }
      if (letters > 0) best = Math.max(best, matched / letters);
    }
    return best;
  }

  function summaryBonus(words, entry) {
    return Math.max(...[entry.summary, ...entry.local.map(said => said.summary)].map(summary => {
      const telling = summary.split(' ').filter(word => !fillers.has(word));
      const matched = telling.filter(word => words.some(one => one.is(word))).length;
      if (telling.length === 0 || matched < words.length) return 0;
      return forSummaryShare * matched / telling.length + (matched === telling.length ? forWholeSummary : 0);
    }));
  }

  function ofPurposeIn(purpose, entry) {
    const has = (text, word) => place(text, word) === 2;
    const byCategory = purpose.categories.some(all => all.split('+').every(one => has(entry.categories, one) || has(entry.areas, one)))
      ? 0.74 : 0;
    const areIn = (all, texts) => all.split('+').every(word => texts.some(text => has(text, word)));
    const byWord = purpose.words.some(all => areIn(all, [entry.name, entry.id])) ? 0.88
      : purpose.words.some(all => areIn(all, [entry.keywords, entry.summary, entry.name, entry.id])) ? 0.7 : 0;
    return byCategory && byWord ? Math.max(byCategory, byWord) + 0.08 : Math.max(byCategory, byWord);
  }

  function ofReading(query, one, words, entry) {
    if (!one.purpose) {
      const [named, which] = ofName(query, one, entry);
      if (named > 0) return { score: named, field: which, missing: 0, lacking: 0 };
    }
    let total = 0, weights = 0, lacking = 0, least = Number.MAX_VALUE, field = 0, missing = 0, inNames = 0, inSummary = 0;
    for (const word of words) {
      const [score, where] = word.in(entry);
      if (score === 0) {
        weights += word.importance;
        lacking += word.importance;
        if (++missing > query.most) return null;
        continue;
      }
      total += score * word.importance;
      weights += word.importance;
      least = Math.min(least, score);
      field = Math.max(field, where);
      if (where <= fields.nameWords) inNames++;
      if (word.quality(entry.summary) > 0 || entry.local.some(said => word.quality(said.summary) > 0)) inSummary++;
    }
    if (one.purpose) {
      const score = ofPurposeIn(one.purpose, entry);
      if (score === 0) return null;
      total += score * ofPurpose;
      weights += ofPurpose;
      least = Math.min(least, score);
      field = Math.max(field, fields.purpose);
    }
    if (weights === 0 || lacking > weights * mostLacking) return null;
    if (missing === words.length && !one.purpose) return null;
    let basis = 0.7 * total / weights + 0.3 * least;
    if (one.purpose) return { score: basis + (words.length === 0 ? forWholePurpose : 0), field, missing, lacking };
    if (inNames > 0) basis += forNameShare * nameShare(words, entry) * (inNames === words.length ? 1 : 0.5);
    if (inSummary === words.length && missing === 0) basis += summaryBonus(words, entry);
    return { score: basis, field, missing, lacking };
  }

  const standing = entry => (entry.isReviewed ? forReview : 0) + (entry.isApp ? 0 : forNoApp);

  function judge(query, prepared, entry) {
    let best = null, second = 0;
    for (const [one, words] of prepared) {
      const found = ofReading(query, one, words, entry);
      if (!found) continue;
      if (!best || found.score > best.score) [best, second] = [found, best?.score ?? second];
      else second = Math.max(second, found.score);
    }
    if (!best) return null;
    const score = best.score + forSecondReading * Math.min(second, 1) + standing(entry) - query.distance * perLetterWrong
      - query.doubts * perDoubt - best.lacking * perMissing;
    return { entry, weight: Math.trunc(score * 1000), isGuess: query.distance > 0, missing: best.missing, field: best.field };
  }

  const byRank = (one, other) => other.weight - one.weight || other.entry.facts.machines - one.entry.facts.machines
    || compare(one.entry.name, other.entry.name) || compare(one.entry.facts.id, other.entry.facts.id);
  const compare = (one, other) => one < other ? -1 : one > other ? 1 : 0;

  // The apps that a reading may find: more than it does, and none that it does not.
  function candidates(query, one, words, namesOnly, into) {
    const index = namesOnly ? inNames : inTexts;
    const sets = words.map(word => {
      const apps = addApps(index, word.word, word.isPrefix, new Set());
      for (const form of word.forms) addApps(index, form, false, apps);
      return apps;
    });
    if (one.purpose && namesOnly) return;
    if (one.purpose) {
      const apps = new Set();
      const words = [...one.purpose.categories.map(all => all.split('+')[0]), ...one.purpose.words];
      for (const word of words) addApps(index, word.split(/[ +]/)[0], false, apps);
      for (const app of apps) into.add(app);
      return;
    }
    addApps(index, one.squashed, true, into);
    if (query.most > 0) for (const set of sets) for (const app of set) into.add(app);
    else for (const app of sets.reduce((least, set) => set.size < least.size ? set : least)) into.add(app);
  }

  function find(query, allowed, namesOnly = false) {
    const prepared = query.readings.map(one => [one, one.words.map((_, at) => askedWord(query, one, at))]);
    const found = [], apps = new Set();
    for (const [one, words] of prepared) candidates(query, one, words, namesOnly, apps);
    for (const app of apps) {
      const entry = entries[app];
      if (!allowed(entry.facts)) continue;
      const names = [entry.name, entry.id, entry.squashed, ...entry.local.flatMap(said => [said.name, together(said.name), said.keywords])];
      const isIn = word => names.some(text => word.quality(text) > 0);
      if (namesOnly && !prepared.some(([one, words]) => !one.purpose && words.every(isIn))) continue;
      const hit = judge(query, prepared, entry);
      if (hit) found.push(hit);
    }
    return found.sort(byRank);
  }

  // Optimal string alignment distance; more than "most" is told as most + 1.
  function distance(one, other, most) {
    if (Math.abs(one.length - other.length) > most) return most + 1;
    let beforeLast = [], last = Array.from({ length: other.length + 1 }, (_, at) => at);
    for (let at = 1; at <= one.length; at++) {
      const row = [at];
      let best = at;
      for (let to = 1; to <= other.length; to++) {
        const isSame = one[at - 1] === other[to - 1];
        let value = Math.min(last[to] + 1, row[to - 1] + 1, last[to - 1] + (isSame ? 0 : 1));
        const isSwapped = at > 1 && to > 1 && one[at - 1] === other[to - 2] && one[at - 2] === other[to - 1];
        if (isSwapped) value = Math.min(value, beforeLast[to - 2] + 1);
        row.push(value);
        if (value < best) best = value;
      }
      if (best > most) return most + 1;
      [beforeLast, last] = [last, row];
    }
    return last[other.length];
  }

  const squeezed = word => word.replace(/(.)\1+/gu, '$1');
  const isSlip = (typed, meant) => squeezed(typed) === squeezed(meant) || [...typed].sort().join('') === [...meant].sort().join('');
  const mostWrong = word => /\p{Nd}/u.test(word) || word.length < 4 ? 0 : word.length < 8 ? 1 : 2;

  // Which letters a word has, as bits; those that are not Latin share one.
  function lettersOf(word) {
    let bits = 0;
    for (let at = 0; at < word.length; at++) {
      const letter = word.charCodeAt(at) - 97;
      bits |= 1 << (letter >= 0 && letter < 26 ? letter : 26);
    }
    return bits;
  }

  function bitsIn(number) {
    let bits = 0;
    for (; number !== 0; number &= number - 1) bits++;
    return bits;
  }

  function near(word, namesOnly) {
    const most = mostWrong(word);
    if (most === 0) return [];
    const found = [], own = lettersOf(word), { sorted } = inTexts;
    for (let at = 0; at < sorted.length; at++) {
      // A wrong letter changes two bits at most.
      const other = sorted[at];
      if (Math.abs(other.length - word.length) > most || bitsIn(letters[at] ^ own) > 2 * most) continue;
      const apart = distance(word, other, most);
      if (apart > 0 && apart <= most) found.push({ word: other, apart, slip: isSlip(word, other) ? 0 : 1 });
    }
    found.sort((one, other) => one.apart - other.apart || one.slip - other.slip || compare(one.word, other.word));
    const beginningsOf = one => numberOf(one) < mostCounted ? addApps(inNames, one, true, new Set()).size : 0;
    const inNameOf = one => inNames.apps.get(one)?.length || beginningsOf(one);
    const countOf = one => Math.min(mostCounted, namesOnly ? inNameOf(one) : numberOf(one));
    const nearest = found.slice(0, 24).map(one => ({ ...one, count: countOf(one.word) })).filter(one => one.count > 0);
    nearest.sort((one, other) => one.apart - other.apart || one.slip - other.slip || other.count - one.count
      || compare(one.word, other.word));
    return nearest.slice(0, 4).map(one => [one.word, one.apart]);
  }

  function guessesOf(words, meant) {
    let queries = [[[], 0]];
    for (const word of words) {
      const choices = meant(word);
      queries = queries.flatMap(([before, apart]) => choices.map(([choice, more]) => [[...before, choice], apart + more]));
      queries.sort((one, other) => one[1] - other[1]);
      queries = queries.slice(0, mostGuesses + 1);
    }
    return queries.filter(([, apart]) => apart > 0).slice(0, mostGuesses).map(([chosen, apart]) => ({
      ...inAllReadings(queryOf(chosen)), isLoose: true, distance: apart,
      doubts: chosen.filter((word, at) => word !== words[at] && !isSlip(words[at], word)).length,
    }));
  }

  const once = hits => {
    const known = new Set();
    return hits.filter(hit => !known.has(hit.entry.at) && known.add(hit.entry.at));
  };
  const findAny = (queries, allowed, namesOnly) =>
    once(queries.flatMap(query => find(query, allowed, namesOnly)).sort((one, other) => other.weight - one.weight));
  const areWeak = hits => hits.length === 0 || isWeak(hits[0]);
  const isWeak = hit => hit.weight < weak && (hit.missing === 0 || isVague(hit));
  const isVague = hit => hit.field > fields.summary;

  function guessed(words, allowed) {
    const unknown = new Set(words.filter(word => !hasBeginning(word)));
    let found = unknown.size === 0 ? [] : findAny(guessesOf(words, word => unknown.has(word) ? near(word) : [[word, 0]]), allowed);
    if (found.length === 0 && unknown.size === 0) found = findAny(guessesOf(words, word => numberOf(word) > mostRare ? [[word, 0]] : [[word, 0], ...near(word)]), allowed);
    if (words.some(word => unknown.has(word) && word.length < leastBeside)) found = found.filter(hit => !isVague(hit));
    return found.length > 0 ? found : togetherGuessed(words, allowed);
  }

  const togetherGuessed = (words, allowed) => words.length < 2 || words.length > mostTogether
    ? []
    : findAny(guessesOf([words.join('')], word => near(word, true)), allowed, true);

  function misspelledNames(words, found, allowed) {
    const known = new Set(found.map(hit => hit.entry.at)), isBehind = !areWeak(found);
    const mayBeWrong = word => word.length >= leastBeside && numberOf(word) < mostCounted;
    const queries = guessesOf(words, word => [[word, 0], ...(mayBeWrong(word) ? near(word, true) : [])]);
    return [...findAny(queries, allowed, true), ...togetherGuessed(words, allowed)]
      .filter(hit => !isBehind || !known.has(hit.entry.at)).slice(0, mostBeside)
      .map(hit => isBehind ? { ...hit, weight: hit.weight - behind } : hit);
  }

  const lacking = (query, most) => {
    const plain = query.readings.filter(one => !one.purpose && !one.isJoined).sort((one, other) => one.words.length - other.words.length);
    return { ...query, most, readings: [...plain.slice(0, 1), ...query.readings.filter(one => one.purpose)] };
  };

  function findMost(query, allowed) {
    const telling = lacking(query, 0).readings[0].words;
    if (telling.length < 2) return [];
    const words = new Set(telling.map(word => word.length < leastBeside || hasBeginning(word) ? word : near(word)[0]?.[0] ?? word)
      .sort((one, other) => importanceOf(other) - importanceOf(one)).slice(0, mostTogether));
    const isAsTyped = words.size === telling.length && telling.every(word => words.has(word));
    const known = isAsTyped ? query : understood([...words]);
    let weakOnes = [];
    for (let missing = isAsTyped ? 1 : 0; missing < lacking(known, 0).readings[0].words.length; missing++) {
      const found = find(lacking(known, missing), allowed);
      if (!areWeak(found)) return found;
      if (weakOnes.length === 0) weakOnes = found;
    }
    return weakOnes;
  }

  // All apps that may be shown, as their rank is where nothing is looked for.
  const list = allowed => entries.filter(entry => allowed(entry.facts))
    .map(entry => ({ entry, weight: Math.trunc(standing(entry) * 1000), isGuess: false, missing: 0 })).sort(byRank);

  // What a person looks for: {hits, matches, guesses, most}.
  function search(typed, allowed) {
    while (!count(1000));
    const folded = fold(typed.slice(0, maxQuery));
    if (!folded) {
      const hits = list(allowed);
      return { hits, matches: hits.length, guesses: 0, most: 0 };
    }
    const words = folded.split(' ');
    let query = understood(words, endingsIn(typed.slice(0, maxQuery))), found = find(query, allowed);
    if (found.length === 0 && words.length > 1) found = find(query = { ...query, isLoose: true }, allowed);
    const guesses = found.length >= mostShown && !areWeak(found) ? []
      : found.length > 0 ? misspelledNames(words, found, allowed) : guessed(words, allowed);
    let most = (areWeak(found) && guesses.length === 0) || areWeak([...found, ...guesses]) ? findMost(query, allowed) : [];
    const known = new Set(found.map(hit => hit.entry.at));
    if (known.size > 0) most = most.filter(hit => !isVague(hit));
    most = most.filter(hit => !known.has(hit.entry.at));
    let hits = [...found, ...guesses, ...most];
    if (areWeak(found)) hits = once(hits.sort(byRank));
    return { hits, matches: found.length, guesses: guesses.length, most: most.length };
  }

  return { take, speak, count, search, fold, english };
})();
