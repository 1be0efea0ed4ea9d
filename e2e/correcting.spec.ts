import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, openIntake } from './people';

/** A reading that went wrong, and what a person does about it: three steps at most, the last of them keeping it. */
interface Correction {
  what: string;
  type?: string;
  body: string;
  steps: (page: Page) => Promise<void>;
  /** What is seen in the answers or the structure afterwards. */
  then: string;
}

const point = (role: string, place: string) => async (page: Page) => {
  await page.getByRole('radio', { name: role }).check();
  await page
    .getByRole('region', { name: 'Structure of the message' })
    .getByRole('button', { name: place, exact: false })
    .first()
    .click();
};

const odd = {
  blk: { n: 'kit-form', t: 'first of May' },
  rows: [
    { w: 'k1', p: 'Which kit?', q: 'No kit', z: 'Strip set' },
    { w: 'k2', p: 'How many?', q: 'No number', z: 'Three' },
  ],
};
const sent = { entry: { id: 'e-7', sent: '2026-11-04T08:12:06Z' } };

const corrections: Correction[] = [
  {
    what: 'submissions in an object by identifiers that were read as one',
    body: JSON.stringify({ log: { ada: { who: 'Ada Reed', came: 'early' }, tom: { who: 'Tom Fell', came: 'late' } } }),
    steps: point('List of submissions', 'ada'),
    then: 'Submission 2',
  },
  {
    what: 'a table whose separator nobody would guess, sent as text',
    type: 'text/plain',
    body: 'Name|Boat|Nights\nAda Reed|Heron|2\nTom Fell|Otter|3\n',
    steps: page =>
      page
        .getByLabel('Read the body as')
        .selectOption('separated values')
        .then(() => undefined),
    then: 'Otter',
  },
  {
    what: 'what question text',
    body: JSON.stringify(odd),
    steps: point('Question text', 'q No kit'),
    then: 'No number',
  },
  {
    what: 'what was answered',
    body: JSON.stringify(odd),
    steps: point('Answer value', 'q No kit'),
    then: 'No number',
  },
  {
    what: 'a time that is written like nothing else',
    body: JSON.stringify({ stamp: { x: 'first of May' }, answers: { who: 'Ada Reed', why: 'Two nights' } }),
    steps: point('Submission time', 'x first of May'),
    then: 'first of Maytime',
  },
  {
    what: 'the form',
    body: JSON.stringify(odd),
    steps: point('Form ID', 'n kit-form'),
    then: 'form ID',
  },
  {
    what: 'answers that stand beside something larger',
    body: JSON.stringify({
      ...sent,
      seen: { first: 'a b', second: 'c d', third: 'e f' },
      real: { place: 'Mill Race' },
    }),
    steps: point('Answers', 'real'),
    then: 'Mill Race',
  },
  {
    what: 'a bare link that is a file',
    body: JSON.stringify({ ...sent, answers: [{ ref: 'proof', label: 'Anything that shows it?', value: 'https://store.example.org/7/letter.pdf' }, { ref: 'who', label: 'Who is asking?', value: 'Ada Reed' }] }), // prettier-ignore
    steps: point('File', 'value https://store'),
    then: 'letter.pdf',
  },
];

for (const { what, type = 'application/json', body, steps, then } of corrections)
  test(`put right in three steps: ${what}`, async ({ page }) => {
    const address = await openIntake(page, `Put right: ${what}`);
    await page.request.fetch(address, { method: 'POST', headers: { 'content-type': type }, data: body });
    await page.getByRole('button', { name: 'Correct…' }).click();
    await steps(page);
    await expect(page.getByText(/1 read differently/)).toBeVisible();
    await page.getByRole('button', { name: 'Save and read again' }).click();
    await expect(page.getByText('Read as:')).toContainText('as pinned');
    await expect(page.getByRole('main')).toContainText(then);
  });

test('a generation of its own, and the form it is the same as, by keyboard', async ({ page }) => {
  const address = await openIntake(page, 'Slip requests');
  const older = (id: string) => ({
    form: { key: 'slip-v1', title: 'Slip request' },
    id,
    submitted_at: '2026-11-04T08:12:06Z',
    answers: [
      { ref: 'who', label: 'Who is asking?', value: 'Ada Reed' },
      { ref: 'why', label: 'What for?', value: 'Two nights' },
    ],
  });
  const newer = { survey: { key: 'slip-v2', title: 'Slips' }, entry: { id: 'b-1', sent: '2026-11-05T08:12:06Z' }, given: { who: 'Tom Fell', why: 'A week', note: 'By night' } }; // prettier-ignore
  await page.request.post(address, { data: older('a-1') });
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Ada Reed');
  await page.request.post(address, { data: newer });
  await expect(page.getByText('The structure changed')).toBeVisible();
  await expect(page.getByText('answers are now at /given, before at /answers')).toBeVisible();
  await expectAccessible(page);

  const same = page.getByRole('button', { name: 'merge with Slip request' });
  await same.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Form:')).toContainText('2 submissions so far');
  await page.getByText('Form:').getByRole('link').click();
  await expect(page.getByText('is merged into this form')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Separate' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('is merged into this form')).toHaveCount(0);
  await expect(page.getByText('1 submission,')).toBeVisible();
});

test('a feed that is asked by POST with OAuth says what is missing beside its field', async ({ page }) => {
  await openIntake(page, 'Rows by POST');
  await page.getByRole('button', { name: 'or poll a URL' }).click();
  const form = page.getByRole('form', { name: 'Feed settings' });
  await form.getByLabel('URL to poll').fill('http://127.0.0.1:9/rows');
  await form.getByLabel('It requires').selectOption('OAuth 2 client credentials');
  await form.getByLabel('Method').selectOption('POST with a body');
  await form.getByLabel('Request body (JSON)').fill('{"limit":');
  await form.getByLabel('One response').selectOption('gives the next URL');
  await form.getByLabel('Token URL').fill('http://127.0.0.1:9/token');
  await form.getByLabel('Client ID').fill('grammata');
  await form.getByLabel('Client secret').fill('s3cret');
  await form.getByLabel('Place in the response').fill('/next');
  await form.getByRole('button', { name: 'Save and poll' }).click();
  await expect(form.getByText('The request body must be JSON.')).toBeVisible();
  await expectAccessible(page);
  await form.getByLabel('Request body (JSON)').fill('{"limit":50}');
  await form.getByRole('button', { name: 'Save and poll' }).click();
  await expect(page.getByText('No token from 127.0.0.1:9')).toBeVisible();
});
