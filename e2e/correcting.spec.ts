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
    steps: point('Each item here is a submission', 'ada'),
    then: 'Submission 2',
  },
  {
    what: 'a table whose separator nobody would guess, sent as text',
    type: 'text/plain',
    body: 'Name|Boat|Nights\nAda Reed|Heron|2\nTom Fell|Otter|3\n',
    steps: page =>
      page
        .getByLabel('The body is read as')
        .selectOption('separated values')
        .then(() => undefined),
    then: 'Otter',
  },
  {
    what: 'what words the question',
    body: JSON.stringify(odd),
    steps: point('This words the question', 'q No kit'),
    then: 'No number',
  },
  {
    what: 'what was answered',
    body: JSON.stringify(odd),
    steps: point('This is the answer', 'q No kit'),
    then: 'No number',
  },
  {
    what: 'a time that is written like nothing else',
    body: JSON.stringify({ stamp: { x: 'first of May' }, answers: { who: 'Ada Reed', why: 'Two nights' } }),
    steps: point('This tells when it was sent', 'x first of May'),
    then: 'first of Maytime',
  },
  {
    what: 'the form',
    body: JSON.stringify(odd),
    steps: point('This tells the form', 'n kit-form'),
    then: 'tells the form',
  },
  {
    what: 'answers that stand beside something larger',
    body: JSON.stringify({
      ...sent,
      seen: { first: 'a b', second: 'c d', third: 'e f' },
      real: { place: 'Mill Race' },
    }),
    steps: point('The answers are here', 'real'),
    then: 'Mill Race',
  },
  {
    what: 'a bare link that is a file',
    body: JSON.stringify({ ...sent, answers: [{ ref: 'proof', label: 'Anything that shows it?', value: 'https://store.example.org/7/letter.pdf' }, { ref: 'who', label: 'Who is asking?', value: 'Ada Reed' }] }), // prettier-ignore
    steps: point('This is a file', 'value https://store'),
    then: 'letter.pdf',
  },
];

for (const { what, type = 'application/json', body, steps, then } of corrections)
  test(`put right in three steps: ${what}`, async ({ page }) => {
    const address = await openIntake(page, `Put right: ${what}`);
    await page.request.fetch(address, { method: 'POST', headers: { 'content-type': type }, data: body });
    await page.getByRole('button', { name: 'Overrule…' }).click();
    await steps(page);
    await expect(page.getByText(/1 read otherwise/)).toBeVisible();
    await page.getByRole('button', { name: 'Keep it, read all anew' }).click();
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
  await expect(page.getByRole('region', { name: 'What was answered' })).toContainText('Ada Reed');
  await page.request.post(address, { data: newer });
  await expect(page.getByText('It is built otherwise than what came before')).toBeVisible();
  await expect(page.getByText('answers stand at /given, no longer at /answers')).toBeVisible();
  await expectAccessible(page);

  const same = page.getByRole('button', { name: 'the same form as Slip request' });
  await same.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('It belongs to')).toContainText('2 submissions so far');
  await page.getByText('It belongs to').getByRole('link').click();
  await expect(page.getByText('is the same form, sent another way')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Tell it apart again' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('is the same form, sent another way')).toHaveCount(0);
  await expect(page.getByText('1 submission,')).toBeVisible();
});

test('a feed that is asked by POST with OAuth says what is missing beside its field', async ({ page }) => {
  await openIntake(page, 'Rows by POST');
  await page.getByRole('button', { name: 'or read an address on a timer' }).click();
  const form = page.getByRole('form', { name: 'Feed settings' });
  await form.getByLabel('Address to read').fill('http://127.0.0.1:9/rows');
  await form.getByLabel('It asks for').selectOption('OAuth 2 client credentials');
  await form.getByLabel('It is asked by').selectOption('POST, with a body');
  await form.getByLabel('What is sent (JSON)').fill('{"limit":');
  await form.getByLabel('One answer').selectOption('says the next one’s address');
  await form.getByLabel('Tokens are had at').fill('http://127.0.0.1:9/token');
  await form.getByLabel('Client identifier').fill('grammata');
  await form.getByLabel('Client secret').fill('s3cret');
  await form.getByLabel('Where the answer says it').fill('/next');
  await form.getByRole('button', { name: 'Save and read' }).click();
  await expect(form.getByText('What is sent has to be JSON.')).toBeVisible();
  await expectAccessible(page);
  await form.getByLabel('What is sent (JSON)').fill('{"limit":50}');
  await form.getByRole('button', { name: 'Save and read' }).click();
  await expect(page.getByText('No token was had from 127.0.0.1:9')).toBeVisible();
});
