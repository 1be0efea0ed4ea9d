/** A question that a drawn form may ask, with answers to draw from. */
export interface Asked {
  key: string;
  label: string;
  sort: 'text' | 'long' | 'choice' | 'choices' | 'number' | 'email' | 'date' | 'boolean';
  answers: string[];
}

/** Everything that is written in one language. */
export interface Vocabulary {
  name: string;
  questions: Asked[];
  forms: string[];
}

const asked = (key: string, label: string, sort: Asked['sort'], ...answers: string[]): Asked => ({
  key,
  label,
  sort,
  answers,
});

const english: Vocabulary = {
  name: 'English',
  forms: ['River walk', 'Boat licence', 'Volunteer day', 'Mooring request'],
  questions: [
    asked('walker', 'Who is walking?', 'text', 'Ada Reed', 'Wen Brook', 'Ivo Marsh'),
    asked('mail', 'E-mail', 'email', 'ada@example.org', 'wen@example.com', 'ivo@example.net'),
    asked('weather', 'Weather', 'choice', 'Dry', 'Wet', 'Windy', 'Fog'),
    asked('seen', 'What did you see?', 'choices', 'Heron', 'Otter', 'Foam', 'Litter'),
    asked(
      'story',
      'Tell us about the day',
      'long',
      'We went late.\nIt rained.',
      'All fine, thanks: no rain at all',
      'Muddy, cold and worth it',
    ),
    asked('boots', 'Boot size', 'number', '39', '42', '44'),
    asked('day', 'Which day suits you?', 'date', '12/04/2026', '3 May 2026', '2026-06-07'),
    asked('town', 'Town', 'text', 'Fernhollow', 'Alder Ford', 'Withy'),
    asked('again', 'Would you come again?', 'choice', 'Yes', 'No', 'Perhaps'),
    asked('dog', 'Dog', 'boolean', 'true', 'false'),
    asked('reach', 'How far did you get (in miles)?', 'number', '2', '7', '11'),
  ],
};

const german: Vocabulary = {
  name: 'German',
  forms: ['Flusswanderung', 'Anmeldung Putztag', 'Bootsplatz'],
  questions: [
    asked('name', 'Vor- und Nachname', 'text', 'Jörg Weide', 'Änne Bach', 'Uwe Furt'),
    asked('mail', 'E-Mail-Adresse', 'email', 'joerg@example.org', 'aenne@example.com'),
    asked('wetter', 'Wie war das Wetter?', 'choice', 'Trocken', 'Nass', 'Windig'),
    asked('dabei', 'Was bringen Sie mit?', 'choices', 'Eimer', 'Handschuhe', 'Zange'),
    asked('bemerkung', 'Bemerkung', 'long', 'Bitte früh anfangen.\nDanke!', 'Ich komme später, gegen elf'),
    asked('plaetze', 'Plätze', 'number', '2', '3', '5'),
    asked('ort', 'Treffpunkt', 'text', 'An der Furt', 'Erlensteg'),
    asked('tag', 'Welcher Tag passt?', 'date', '12.04.2026', '3. Mai 2026'),
  ],
};

const spanish: Vocabulary = {
  name: 'Spanish',
  forms: ['Paseo del río', 'Taller de remo'],
  questions: [
    asked('quien', '¿Quién viene?', 'text', 'Íñigo Vado', 'Begoña Ribera'),
    asked('correo', 'Correo electrónico', 'email', 'inigo@example.org', 'begona@example.com'),
    asked('tiempo', 'Tiempo', 'choice', 'Seco', 'Lluvia', 'Viento'),
    asked('visto', '¿Qué ha visto?', 'choices', 'Garza', 'Nutria', 'Espuma'),
    asked('nota', 'Comentarios', 'long', 'Llegamos tarde.\nLlovió.', 'Todo bien, gracias'),
    asked('personas', 'Número de personas', 'number', '2', '4', '9'),
    asked('pueblo', 'Pueblo', 'text', 'Vado Alto', 'Sauce'),
  ],
};

const japanese: Vocabulary = {
  name: 'Japanese',
  forms: ['川歩きの申し込み'],
  questions: [
    asked('namae', 'お名前', 'text', '見本 一郎', '例 花子'),
    asked('tenki', '天気', 'choice', '晴れ', '雨', '風'),
    asked('mita', '見たもの（複数可）', 'choices', '鷺', '泡', 'ごみ'),
    asked('kansou', 'ご感想', 'long', '遅れて着きました。\n雨でした。', '楽しかったです'),
    asked('ninzu', 'ご人数', 'number', '2', '3'),
  ],
};

const french: Vocabulary = {
  name: 'French',
  forms: ['Promenade au bord de l’eau', 'Journée de nettoyage'],
  questions: [
    asked('qui', 'Qui vient ?', 'text', 'Gaëlle Rive', 'Anaël Gué'),
    asked('courriel', 'Courriel', 'email', 'gaelle@example.org', 'anael@example.com'),
    asked('meteo', 'Quel temps faisait-il ?', 'choice', 'Sec', 'Pluie', 'Vent'),
    asked('vu', 'Qu’avez-vous vu ?', 'choices', 'Héron', 'Loutre', 'Écume'),
    asked('mot', 'Un mot pour nous', 'long', 'Arrivés tard.\nIl pleuvait.', 'Tout va bien, merci'),
    asked('places', 'Nombre de places', 'number', '2', '3', '6'),
    asked('lieu', 'Lieu de rendez-vous', 'text', 'Le vieux gué', 'Sous l’aulne'),
  ],
};

const dutch: Vocabulary = {
  name: 'Dutch',
  forms: ['Rivierwandeling', 'Schoonmaakdag'],
  questions: [
    asked('wie', 'Wie loopt er mee?', 'text', 'Teun Wilg', 'Sanne Oever'),
    asked('post', 'E-mailadres', 'email', 'teun@example.org', 'sanne@example.com'),
    asked('weer', 'Hoe was het weer?', 'choice', 'Droog', 'Nat', 'Winderig'),
    asked('gezien', 'Wat heb je gezien?', 'choices', 'Reiger', 'Otter', 'Schuim'),
    asked('kwijt', 'Wat wil je nog kwijt?', 'long', 'We waren laat.\nHet regende.', 'Alles goed, bedankt'),
    asked('maat', 'Maat laarzen', 'number', '39', '42'),
    asked('plaats', 'Vertrekpunt', 'text', 'Oude voorde', 'Bij de els'),
  ],
};

const polish: Vocabulary = {
  name: 'Polish',
  forms: ['Spacer nad rzeką', 'Dzień sprzątania'],
  questions: [
    asked('kto', 'Imię i nazwisko', 'text', 'Łucja Bród', 'Paweł Wierzba'),
    asked('poczta', 'Adres e-mail', 'email', 'lucja@example.org', 'pawel@example.com'),
    asked('pogoda', 'Jaka była pogoda?', 'choice', 'Sucho', 'Mokro', 'Wiatr'),
    asked('co', 'Co widziałeś?', 'choices', 'Czapla', 'Wydra', 'Piana'),
    asked('uwagi', 'Uwagi', 'long', 'Byliśmy późno.\nPadało.', 'Wszystko dobrze, dziękuję'),
    asked('miejsca', 'Liczba miejsc', 'number', '2', '5'),
  ],
};

const italian: Vocabulary = {
  name: 'Italian',
  forms: ['Passeggiata sul fiume', 'Giornata di pulizia'],
  questions: [
    asked('chi', 'Chi viene?', 'text', 'Ilaria Guado', 'Nico Salice'),
    asked('posta', 'Indirizzo e-mail', 'email', 'ilaria@example.org', 'nico@example.com'),
    asked('meteo', 'Com’era il tempo?', 'choice', 'Asciutto', 'Pioggia', 'Vento'),
    asked('visto', 'Che cosa ha visto?', 'choices', 'Airone', 'Lontra', 'Schiuma'),
    asked('nota', 'Osservazioni', 'long', 'Siamo arrivati tardi.\nPioveva.', 'Tutto bene, grazie'),
    asked('posti', 'Numero di posti', 'number', '2', '4', '8'),
    asked('luogo', 'Punto di ritrovo', 'text', 'Il vecchio guado', 'Sotto il salice'),
  ],
};

const portuguese: Vocabulary = {
  name: 'Portuguese',
  forms: ['Passeio do rio', 'Dia de limpeza'],
  questions: [
    asked('quem', 'Quem vem?', 'text', 'Inês Vau', 'Rui Salgueiro'),
    asked('correio', 'Endereço de e-mail', 'email', 'ines@example.org', 'rui@example.com'),
    asked('tempo', 'Como estava o tempo?', 'choice', 'Seco', 'Chuva', 'Vento'),
    asked('viu', 'O que viu?', 'choices', 'Garça', 'Lontra', 'Espuma'),
    asked('obs', 'Observações', 'long', 'Chegámos tarde.\nChovia.', 'Tudo bem, obrigado'),
    asked('lugares', 'Número de lugares', 'number', '2', '3', '7'),
    asked('local', 'Ponto de encontro', 'text', 'O velho vau', 'Junto ao amieiro'),
  ],
};

const swedish: Vocabulary = {
  name: 'Swedish',
  forms: ['Åvandring', 'Städdag'],
  questions: [
    asked('vem', 'Vem går med?', 'text', 'Åsa Vadström', 'Nils Al'),
    asked('epost', 'E-post', 'email', 'asa@example.org', 'nils@example.com'),
    asked('vader', 'Hur var vädret?', 'choice', 'Torrt', 'Vått', 'Blåsigt'),
    asked('sett', 'Vad såg du?', 'choices', 'Häger', 'Utter', 'Skum'),
    asked('ovrigt', 'Övrigt', 'long', 'Vi kom sent.\nDet regnade.', 'Allt gick bra, tack'),
    asked('stovlar', 'Stövelstorlek', 'number', '39', '42'),
    asked('plats', 'Startplats', 'text', 'Gamla vadet', 'Vid alen'),
  ],
};

/** Words that nobody knows, of syllables. */
function madeUp(name: string, syllables: string[]): Vocabulary {
  const word = (at: number, length: number) =>
    Array.from({ length }, (_, index) => syllables[(at * 7 + index * 5 + at * index) % syllables.length]!).join('');
  const capital = (text: string) => text[0]!.toUpperCase() + text.slice(1);
  const phrase = (at: number, words: number) =>
    capital(Array.from({ length: words }, (_, index) => word(at + index * 3, 2)).join(' '));
  const sorts: Asked['sort'][] = ['text', 'choice', 'choices', 'long', 'number', 'email', 'text', 'date'];
  return {
    name,
    forms: [phrase(1, 2), phrase(4, 3)],
    questions: sorts.map((sort, at) => {
      const label = at % 3 === 0 ? `${phrase(at + 2, 3)}?` : phrase(at + 11, at % 2 === 0 ? 2 : 1);
      const values: Record<Asked['sort'], string[]> = {
        text: [phrase(at + 21, 2), phrase(at + 25, 2), phrase(at + 29, 3)],
        choice: [capital(word(at + 31, 2)), capital(word(at + 33, 2)), capital(word(at + 36, 3))],
        choices: [capital(word(at + 41, 2)), capital(word(at + 43, 2)), capital(word(at + 46, 3))],
        long: [`${phrase(at + 51, 4)}.\n${phrase(at + 57, 3)}.`, phrase(at + 61, 5)],
        number: ['3', '17', '240'],
        email: [`${word(at, 2)}@example.org`, `${word(at + 3, 2)}@example.net`],
        date: ['12/04/2026', '2026-06-07'],
        boolean: ['true', 'false'],
      };
      return asked(word(at + 71, 3), label, sort, ...values[sort]);
    }),
  };
}

const first = madeUp('made-up words', ['ba', 'ko', 'ri', 'mu', 'te', 'lan', 'so', 'vi', 'dre', 'pol']);
const second = madeUp('other made-up words', [
  'zha',
  'uth',
  'ne',
  'gwi',
  'fel',
  'ork',
  'ji',
  'sta',
  'ymo',
  'qua',
  'be',
]);

const third = madeUp('a third set of made-up words', [
  'xi',
  'plo',
  'dar',
  'min',
  'gho',
  'rus',
  'ket',
  'ya',
  'wol',
  'bre',
  'nif',
  'tso',
]);

/** What weights may be fitted on, what was held out at first and then looked at, and what nobody looked at. */
export const vocabularies = {
  fitted: [english, german, spanish, first],
  held: [french, dutch, polish, japanese, second],
  unread: [italian, portuguese, swedish, third],
};

/** How a builder calls the parts of what it sends. */
export interface Names {
  id: string;
  time: string;
  formKey: string;
  formName: string;
  form: string;
  answers: string;
  key: string;
  label: string;
  value: string;
  kind: string;
  options: string;
  list: string;
  wrapper: string;
  /** Names for people, as heads of columns and of lines. */
  shown: { id: string; time: string; form: string };
  /** True where nobody could know that the names mean what they do. */
  isUnknown?: boolean;
}

const names = (
  id: string,
  time: string,
  form: [object: string, key: string, name: string],
  answers: [holder: string, key: string, label: string, value: string, kind: string, options: string],
  [list, wrapper]: [string, string],
  shown: [string, string, string],
): Names => ({
  id,
  time,
  form: form[0],
  formKey: form[1],
  formName: form[2],
  answers: answers[0],
  key: answers[1],
  label: answers[2],
  value: answers[3],
  kind: answers[4],
  options: answers[5],
  list,
  wrapper,
  shown: { id: shown[0], time: shown[1], form: shown[2] },
});

export const namings = {
  fitted: [
    names(
      'submission_id',
      'submitted_at',
      ['form', 'id', 'name'],
      ['answers', 'id', 'label', 'value', 'type', 'options'],
      ['submissions', 'data'],
      ['Submission ID', 'Submitted at', 'Form name'],
    ),
    names(
      'id',
      'created',
      ['survey', 'ref', 'title'],
      ['fields', 'key', 'question', 'answer', 'kind', 'choices'],
      ['results', 'payload'],
      ['Entry ID', 'Date submitted', 'Survey'],
    ),
    names(
      'entryId',
      'sentOn',
      ['form', 'code', 'title'],
      ['responses', 'ref', 'title', 'response', 'type', 'choices'],
      ['entries', 'body'],
      ['Entry number', 'Received', 'Form'],
    ),
    {
      ...names(
        'plu',
        'gorv',
        ['brel', 'sned', 'faml'],
        ['trok', 'wusp', 'hilm', 'dafe', 'zont', 'mep'],
        ['crux', 'vash'],
        ['Reference', 'Sent', 'Form'],
      ),
      isUnknown: true,
    },
  ],
  held: [
    names(
      'uuid',
      'completedAt',
      ['questionnaire', 'slug', 'caption'],
      ['replies', 'field', 'wording', 'reply', 'sort', 'alternatives'],
      ['records', 'message'],
      ['Record ID', 'Completed on', 'Questionnaire'],
    ),
    names(
      'receipt_no',
      'received',
      ['template', 'key', 'heading'],
      ['inputs', 'name', 'caption', 'entered', 'widget', 'list'],
      ['batch', 'event'],
      ['Reply number', 'Time received', 'Form title'],
    ),
    names(
      'reply_ref',
      'filed_on',
      ['quiz', 'no', 'name'],
      ['given', 'slot', 'asked', 'told', 'as', 'picks'],
      ['rows', 'content'],
      ['Response ID', 'Finished at', 'Form'],
    ),
    {
      ...names(
        'zek',
        'unf',
        ['ofal', 'irt', 'lup'],
        ['yarn', 'bix', 'quon', 'sert', 'opli', 'hask'],
        ['wem', 'tull'],
        ['Number', 'Submitted', 'Form'],
      ),
      isUnknown: true,
    },
  ],
  unread: [
    names(
      'responseId',
      'endedAt',
      ['poll', 'uid', 'label'],
      ['inputs', 'ref', 'prompt', 'result', 'format', 'available'],
      ['items', 'notification'],
      ['Response number', 'Date sent', 'Poll'],
    ),
    names(
      'record_id',
      'lodged',
      ['form', 'slug', 'heading'],
      ['content', 'handle', 'statement', 'val', 'component', 'picklist'],
      ['replies', 'envelope'],
      ['Submission', 'Created', 'Form name'],
    ),
    names(
      'number',
      'handed_in',
      ['survey', 'nr', 'caption'],
      ['values', 'code', 'header', 'said', 'input', 'choices'],
      ['list', 'record'],
      ['Record number', 'Submitted on', 'Survey'],
    ),
    {
      ...names(
        'dwim',
        'hox',
        ['jurn', 'kep', 'obli'],
        ['frag', 'nost', 'tirl', 'ump', 'vesk', 'cran'],
        ['goll', 'snib'],
        ['Entry', 'Submitted', 'Form'],
      ),
      isUnknown: true,
    },
  ],
};
