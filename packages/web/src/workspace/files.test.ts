import { zipSync, strToU8 } from 'fflate';
import { archiveOf, filesFrom, filesOfTexts } from './files';

const files = { 'workspace.json': { format: 1 }, 'routes/reports.json': { name: 'Reports' } };
const file = (bytes: BlobPart, name: string) => new File([bytes], name);

test('an archive gives the files that it was made of, and is the same each time', async () => {
  const archive = archiveOf(files);
  expect(await filesFrom([file(archive, 'workspace.zip')])).toEqual(files);
  expect(Buffer.from(archiveOf({ ...files })).equals(Buffer.from(archive))).toBe(true);
});

test('files are those beside workspace.json, wherever it stands; what else is there is not read', () =>
  expect(
    filesOfTexts([
      { path: 'repo/package.json', text: '{"a":' },
      { path: 'repo/forms/workspace.json', text: '{"format":1}' },
      { path: 'repo/forms/routes/reports.json', text: '{"name":"Reports"}' },
      { path: 'repo/forms/notes.json', text: 'x' },
      { path: 'repo/routes/other.json', text: '{}' },
    ]),
  ).toEqual(files));

test.each<[string, () => File[], RegExp]>([
  ['nothing', () => [], /No workspace.json/],
  ['another archive', () => [file(zipSync({ 'a.json': strToU8('{}') }) as BlobPart, 'a.zip')], /No workspace.json/],
  ['what is no archive', () => [file('PK no', 'a.zip')], /not a readable ZIP/],
  [
    'a file that is no JSON',
    () => [
      file(
        zipSync({ 'w/workspace.json': strToU8('{"format":1}'), 'w/routes/a.json': strToU8('{') }) as BlobPart,
        'a.zip',
      ),
    ],
    /routes\/a\.json is not JSON/,
  ],
])('%s is told', async (_, chosen, message) => {
  await expect(filesFrom(chosen())).rejects.toThrow(message);
});
