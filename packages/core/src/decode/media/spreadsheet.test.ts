import ExcelJS, { type Workbook } from 'exceljs';
import { strToU8, zipSync } from 'fflate';
import fc from 'fast-check';
import { readDocument } from '.';

// The other side is exceljs: what it writes as ECMA-376 says has to be read as what was given to it.
const type = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const read = (body: Uint8Array) => readDocument(body, type, '');
async function written(fill: (book: Workbook) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  fill(book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

test('texts, numbers, booleans, dates, formulas, rich text and gaps', async () => {
  const body = await written(book => {
    const sheet = book.addWorksheet('Access');
    sheet.addRow(['Site', 'pH', 'Locked', 'Day', 'At', 'Sum', 'Note', 'Gap']);
    sheet.addRow([
      'Otter Weir & Mühle <1>',
      7.25,
      true,
      new Date('2026-11-04T00:00:00Z'),
      new Date('2026-11-04T07:55:30Z'),
      { formula: 'B2*2', result: 14.5 },
      { richText: [{ text: 'low ' }, { font: { bold: true }, text: 'water' }] },
    ]);
    sheet.getColumn(4).numFmt = 'dd/mm/yyyy';
    sheet.getColumn(5).numFmt = 'dd/mm/yyyy hh:mm';
    sheet.getCell('H2').value = 'last';
    sheet.addRow(['Ford', null, false, null, null, null, null, 'x']);
  });
  expect(read(body)).toEqual({
    media: 'spreadsheet',
    isTable: true,
    notes: [],
    document: [
      {
        Site: 'Otter Weir & Mühle <1>',
        pH: 7.25,
        Locked: true,
        Day: '2026-11-04',
        At: '2026-11-04T07:55:30',
        Sum: 14.5,
        Note: 'low water',
        Gap: 'last',
      },
      { Site: 'Ford', pH: '', Locked: false, Day: '', At: '', Sum: '', Note: '', Gap: 'x' },
    ],
  });
});

test('days that count from 1904, and times alone', async () => {
  const body = await written(book => {
    book.properties.date1904 = true;
    const sheet = book.addWorksheet('x');
    sheet.addRow(['Day', 'Out', 'Site']);
    sheet.addRow([new Date('2026-01-02T00:00:00Z'), 0.75, 'Ford']);
    sheet.getColumn(1).numFmt = 'yyyy-mm-dd';
    sheet.getColumn(2).numFmt = 'hh:mm';
  });
  expect(read(body).document).toEqual([{ Day: '2026-01-02', Out: '18:00', Site: 'Ford' }]);
});

test('the first sheet with rows is read and the others are named; a cell with an error is told', async () => {
  const body = await written(book => {
    book.addWorksheet('Empty');
    const sheet = book.addWorksheet('Log');
    sheet.addRow(['Site', 'pH']);
    sheet.addRow(['Ford', { error: '#DIV/0!' }]);
    sheet.addRow(['Weir', 7]);
    book.addWorksheet('Other').addRow(['a', 'b']);
  });
  const { document, notes } = read(body);
  expect(document).toEqual([{ Site: 'Ford' }, { Site: 'Weir', pH: 7 }]);
  expect(notes.map(each => each.message)).toEqual([
    'Cell B2 holds an error; it was not read.',
    'Only the sheet “Log” was read, not “Other”.',
  ]);
});

test('a workbook under another Content-Type is known by its bytes', async () => {
  const body = await written(book =>
    book.addWorksheet('x').addRows([
      ['Site', 'pH'],
      ['Ford', 7],
    ]),
  );
  expect(readDocument(body, 'application/octet-stream', '')).toMatchObject({ media: 'spreadsheet' });
});

describe('bad archives', () => {
  const sheet = (xml: string) => zipSync({ 'xl/worksheets/sheet1.xml': strToU8(xml) });
  test.each<[string, Uint8Array, string]>([
    ['no archive', strToU8('PK\u0003\u0004 but nothing'), 'can’t be read'],
    ['an archive of something else', zipSync({ 'readme.txt': strToU8('hello') }), 'no worksheet'],
    ['a sheet without rows', sheet('<worksheet><sheetData/></worksheet>'), 'hold no row'],
    [
      'entities that would grow',
      sheet(
        '<!DOCTYPE x [<!ENTITY a "aaaa">]><worksheet><sheetData><row><c t="str"><v>&a;</v></c></row></sheetData></worksheet>',
      ),
      'hold no row',
    ],
  ])('%s', (_, body, words) => {
    const { document, notes } = read(body);
    expect([document, notes[0]!.message]).toEqual([null, expect.stringContaining(words) as string]);
  });

  // The time of packing stands in an archive: whatever bytes it makes, they are not read as text.
  test('at any time of packing, an archive is no text', () => {
    fc.assert(
      fc.property(fc.date({ min: new Date('1981-01-01'), max: new Date('2098-12-31'), noInvalidDate: true }), mtime => {
        const body = zipSync({ 'xl/worksheets/sheet1.xml': strToU8('<worksheet><sheetData/></worksheet>') }, { mtime });
        for (const type of [null, 'text/csv', 'text/plain', 'application/x-www-form-urlencoded'])
          expect(readDocument(body, type, '').document).toBeNull();
      }),
    );
  });

  test('one that unpacks to more than a part may is refused before it is unpacked', () => {
    const bomb = zipSync({ 'xl/worksheets/sheet1.xml': new Uint8Array(101_000_000) });
    expect(bomb.length).toBeLessThan(200_000);
    expect(read(bomb).notes[0]!.message).toContain('larger than 100 MB');
  });

  test('cut short or with bytes changed, never throws', async () => {
    const body = await written(book =>
      book.addWorksheet('x').addRows([
        ['Site', 'pH'],
        ['Ford', 7],
      ]),
    );
    fc.assert(
      fc.property(fc.nat(body.length), fc.nat(body.length - 1), fc.nat(255), (length, at, byte) => {
        const broken = body.slice(0, length);
        if (at < length) broken[at] = byte;
        expect(Array.isArray(read(broken).notes)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});
