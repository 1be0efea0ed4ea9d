import { readLabelledText } from './labelledText';

const read = (text: string) => {
  const reading = readLabelledText(text, '');
  return reading && { answers: reading.answers.map(({ label, value }) => [label, value]), around: reading.around };
};

test('questions above their answers, numbered or not, with a head that tells when it came', () => {
  expect(
    read(
      'Response #12\nReceived: 2026-11-04 08:12\n\n1. What did you see?\nFoam\nTwo tyres\n\n2. Who was with you?\nAda: and Wen\n',
    ),
  ).toEqual({
    answers: [
      ['What did you see?', 'Foam\nTwo tyres'],
      ['Who was with you?', 'Ada: and Wen'],
    ],
    around: { Received: '2026-11-04 08:12' },
  });
});
test('headings that are underlined are no questions', () => {
  const text =
    'Pond report\n===========\n\nThe pond\n--------\n\nName\nOtter pool\n\nDepth in cm\n40\n\nWeather\n-------\n\nSky\nGrey';
  expect(read(text)?.answers).toEqual([
    ['Name', 'Otter pool'],
    ['Depth in cm', '40'],
    ['Sky', 'Grey'],
  ]);
});
test('a question that stands alone is answered by what follows, or not at all', () => {
  expect(read('What colour?\n\nGreen\n\nHow many?\n\nWhere?\n\nBy the weir')?.answers).toEqual([
    ['What colour?', 'Green'],
    ['How many?', ''],
    ['Where?', 'By the weir'],
  ]);
});
test.each<[string, string, [string, string][]]>([
  [
    'full-width colons',
    '名前：文秀\n町：東京',
    [
      ['名前', '文秀'],
      ['町', '東京'],
    ],
  ],
  [
    'stars and bullets',
    '* **Site:** Ford\n* **Signs:** Foam',
    [
      ['Site', 'Ford'],
      ['Signs', 'Foam'],
    ],
  ],
  [
    'a list below its label',
    'Site: Ford\nSigns:\n- Foam\n- Litter',
    [
      ['Site', 'Ford'],
      ['Signs', 'Foam\nLitter'],
    ],
  ],
  [
    'rules between',
    'Site: Ford\n----------\nSigns: Foam\n==========\nSent by a form.',
    [
      ['Site', 'Ford'],
      ['Signs', 'Foam'],
    ],
  ],
  [
    'a signature is none',
    'Site: Ford\nSigns: Foam\n-- \nOffice: Basin',
    [
      ['Site', 'Ford'],
      ['Signs', 'Foam'],
    ],
  ],
])('%s', (_, text, answers) => expect(read(text)?.answers).toEqual(answers));
test('what is said of the submission itself at the head or the foot stands around its answers', () => {
  expect(read('Form name: Pond\nSite: Ford\nSigns: Foam\nIP address: 192.0.2.7\nSubmitted on: 4 Nov 2026')).toEqual({
    answers: [
      ['Site', 'Ford'],
      ['Signs', 'Foam'],
    ],
    around: { 'Form name': 'Pond', 'IP address': '192.0.2.7', 'Submitted on': '4 Nov 2026' },
  });
  expect(read('When: 10:30\nWhere: gate')?.answers).toEqual([
    ['When', '10:30'],
    ['Where', 'gate'],
  ]);
});
