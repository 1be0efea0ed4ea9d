import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { text } from 'node:stream/consumers';
import { stored, type Stored } from '../testing/stored';
import { Copies, stage } from '.';

let kept: Stored;
beforeEach(() => (kept = stored()));
afterEach(() => kept.close());

test('a file that is linked to by a copy goes along as well; its copy is another’s to remove', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-'));
  const copies = new Copies(kept.store.copies, 'https://g.example.org', Buffer.alloc(32, 7), folder);
  const staged = await stage(path.join(folder, 'underway'), [Buffer.from('a picture')], 'image/gif', 1000);
  const { id } = kept.arrive(1)[0]!;
  const link = await copies.keep(staged, 'a.gif', id, 'delivery/0', 30);
  expect(await copies.keep(staged, 'a.gif', id, 'delivery/0', 30)).toBe(link);
  expect(await text(staged.open())).toBe('a picture');
  staged.remove();
  copies.sweep();
  expect(readdirSync(path.join(folder, 'copies'))).toHaveLength(1);
  // What is only tried out is of no recorded submission.
  const tried = await stage(path.join(folder, 'underway'), [Buffer.from('another')], 'image/gif', 1000);
  await copies.keep(tried, 'b.gif', '', 'try/0', 30);
  kept.commands.removeIntake({ intakeId: kept.intakeId, most: 100 });
  copies.sweep();
  expect(readdirSync(path.join(folder, 'copies'))).toHaveLength(1);
});
