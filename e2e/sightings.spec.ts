import { expect, test, type Page } from '@playwright/test';
import { demo } from './addresses';
import { expectAccessible, fillLine, openIntake, pick } from './people';

// A target that speaks GraphQL, asked with somebody's consent, which they withdraw and give again.

const sightings = `${demo.practice}/sightings`;
const seen = (id: string, species: string, site: string) => ({
  entry: { id, sent: '2026-11-05T08:12:06Z' },
  answers: [
    { ref: 'species', label: 'What did you see?', value: species },
    { ref: 'site', label: 'Which site?', value: site },
    { ref: 'how', label: 'How old was it?', value: 'Grown' },
  ],
});

async function giveConsent(page: Page, words: string): Promise<void> {
  await page.getByRole('button', { name: words }).press('Enter');
  await expect(page.getByRole('heading', { name: 'May “grammata” act for you?' })).toBeVisible();
}

test('GraphQL with somebody’s consent: given, refused, withdrawn, given again; nothing is lost', async ({ page }) => {
  const address = await openIntake(page, 'Animals seen');
  await page.request.post(address, { data: seen('a-1', 'Otter', 'AB-07') });
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('Otter');

  await page.goto('/targets?new');
  await page.getByLabel('Name').fill('Sightings');
  await page.getByLabel('Base address').fill(sightings);
  await page.getByLabel('Operations from').selectOption({ label: 'a GraphQL schema' });
  await expect(page.getByLabel('Endpoint')).toHaveValue('/graphql');
  await page.getByLabel('Credentials').selectOption({ label: 'OAuth 2 with user consent' });
  await page.getByLabel('Authorization URL').fill(`${sightings}/authorize`);
  await page.getByLabel('Token URL').fill(`${sightings}/token`);
  await page.getByLabel('Client ID').fill('grammata');
  await page.getByLabel('Client secret, if any').fill('yard-sightings-91b2');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add target' }).click();
  const margin = page.getByRole('complementary');
  await expect(margin).toContainText('No consent yet. Deliveries are waiting.');

  await giveConsent(page, 'Give consent');
  await page.getByRole('link', { name: 'No' }).click();
  await expect(margin).toContainText('Consent was refused.');
  await giveConsent(page, 'Give consent');
  await page.getByRole('link', { name: 'Yes, it may' }).press('Enter');
  await expect(margin).toContainText('Consent given');
  await page.getByRole('button', { name: 'Test and read again' }).click();
  await expect(margin).toContainText('offers 4 operations, 2 of which store something');
  await expectAccessible(page);

  await page.goto('/routes?new');
  await pick(page, 'Form', /Animals seen/, 'Animals seen');
  await pick(page, 'Target', /Record a sighting/, 'Record a sighting', 'Sightings');
  await page.getByRole('button', { name: 'Create route' }).click();
  await fillLine(page, 'input\\.species', 'What did you see?');
  await fillLine(page, 'input\\.place\\.site', 'Which site?');
  await fillLine(page, 'input\\.stage', 'How old was it?');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  await page.getByRole('radio', { name: 'Requests' }).click();
  await expect(page.getByText('mutation RecordSighting').first()).toBeVisible();
  await page.getByRole('button', { name: 'Go live…' }).click();
  await page.getByRole('button', { name: 'Publish now' }).click();
  await expect(page.getByText('version 1')).toBeVisible();

  await page.request.post(address, { data: seen('a-2', 'Heron', 'AB-02') });
  const row = (species: string) =>
    page.getByRole('row').filter({ has: page.getByRole('cell', { name: species, exact: true }) });
  const arrives = (species: string) =>
    expect(async () => {
      await page.goto(sightings);
      await expect(row(species)).toContainText('GROWN', { timeout: 500 });
    }).toPass();
  await arrives('Heron');

  // What the target has against a request stands in an answer of 200, and is told as what it is.
  await page.request.post(address, { data: seen('a-3', 'Eel', 'XX-9') });
  await expect(async () => {
    await page.goto('/deliveries?state=dead');
    await expect(page.getByText(/There is no site XX-9/).first()).toBeVisible({ timeout: 1000 });
  }).toPass();

  // Consent is withdrawn: what comes waits, and goes once it is given again.
  await page.goto(sightings);
  await page.getByRole('button', { name: 'Withdraw consent' }).click();
  await page.request.post(address, { data: seen('a-4', 'Kingfisher', 'AB-01') });
  await page.goto('/targets');
  await page.getByRole('link', { name: /^Sightings/ }).click();
  await expect(margin).toContainText('This consent was withdrawn. Deliveries are waiting.');
  await expectAccessible(page);
  await giveConsent(page, 'Renew consent');
  await page.getByRole('link', { name: 'Yes, it may' }).click();
  await expect(margin).toContainText('Consent given');
  await arrives('Kingfisher');
  await expect(row('Kingfisher')).toHaveCount(1);
});
