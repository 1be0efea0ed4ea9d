import type { Operation } from '@grammata/core/target';
import type { Authorizations, Outward } from '../outward';
import type { TargetRow } from '../store';
import { choicesOf } from './choices';

interface Page {
  body: unknown;
  link?: string;
}

/** What a target is asked, and what it gives for each address. */
async function ask(pages: Record<string, Page>, answer?: Operation['answer']) {
  const asked: string[] = [];
  const outward = {
    send: ({ url }: { url: string }) => {
      asked.push(url.slice('http://a.example'.length));
      const page = pages[asked.at(-1)!];
      return Promise.resolve({
        status: page ? 200 : 404,
        headers: page?.link ? { link: page.link } : {},
        body: JSON.stringify(page?.body),
      });
    },
  } as unknown as Outward;
  const authorizations = { for: () => Promise.resolve({ headers: [], query: [] }) } as unknown as Authorizations;
  const operations = [{ id: 'list', label: 'List', method: 'GET', path: '/sites', fields: [], answer }];
  const target = { name: 'Register', baseUrl: 'http://a.example', operations } as unknown as TargetRow;
  const { choices, isPart } = await choicesOf(target, 'list', { outward, authorizations });
  return { asked, labels: choices.map(each => each.label), isPart };
}
const sites = (...names: string[]) => names.map((name, at) => ({ id: `${name}-${at}`, name }));

test.each<[string, Record<string, Page>, string[], string[], boolean]>([
  ['one page is all', { '/sites': { body: sites('Ford', 'Weir') } }, ['/sites'], ['Ford', 'Weir'], false],
  [
    'the next is linked in a header (RFC 8288)',
    {
      '/sites': { body: sites('Ford'), link: '</sites?page=2>; rel="next"' },
      '/sites?page=2': { body: sites('Weir'), link: '</sites>; rel="prev"' },
    },
    ['/sites', '/sites?page=2'],
    ['Ford', 'Weir'],
    false,
  ],
  [
    'the next is linked in the body',
    {
      '/sites': { body: { data: sites('Ford'), links: { next: { href: 'http://a.example/sites?after=1' } } } },
      '/sites?after=1': { body: { data: sites('Weir'), links: { next: null } } },
    },
    ['/sites', '/sites?after=1'],
    ['Ford', 'Weir'],
    false,
  ],
  [
    'a cursor whose parameter nobody knows is told',
    { '/sites': { body: { items: sites('Ford'), next_cursor: 'k7' } } },
    ['/sites'],
    ['Ford'],
    true,
  ],
  [
    'more is told by a yes',
    { '/sites': { body: { items: sites('Ford'), has_more: true } } },
    ['/sites'],
    ['Ford'],
    true,
  ],
  [
    'credentials go to no other place',
    { '/sites': { body: { items: sites('Ford'), next: 'http://b.example/sites' } } },
    ['/sites'],
    ['Ford'],
    true,
  ],
  [
    'a page that leads to itself ends it',
    { '/sites': { body: { items: sites('Ford'), next: '/sites' } } },
    ['/sites'],
    ['Ford'],
    true,
  ],
  ['none is none', { '/sites': { body: { items: [{ id: 7, name: 'Ford' }], next: '' } } }, ['/sites'], ['Ford'], false],
])('a list of records, page by page: %s', async (_, pages, asked, labels, isPart) => {
  expect(await ask(pages)).toEqual({ asked, labels, isPart });
});

test('what it answers is read as its document says, where it says so', async () => {
  const answer: Operation['answer'] = [
    { pointer: '/right', label: '', type: 'json', items: [{ pointer: '/key', label: '', type: 'text' }] },
  ];
  const body = { wrong: sites('Ford'), right: [{ key: 'k1' }] };
  expect((await ask({ '/sites': { body } }, answer)).labels).toEqual(['k1']);
});

test('what holds no list says so', async () => {
  await expect(ask({ '/sites': { body: { status: 'ok' } } })).rejects.toThrow('holds no list');
});
