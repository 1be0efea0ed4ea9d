import { readExample } from '.';

const operation = (text: string) => {
  const found = readExample(text);
  if ('fault' in found) throw new Error(found.fault);
  return { ...found.operations[0]!, baseUrl: found.baseUrl };
};
const fields = (text: string) =>
  operation(text).fields.map(({ key, in: place, pointer, type }) => [key, place ?? 'body', pointer, type]);

// The options are those of curl’s manual page (curl.se/docs/manpage.html); the lines are ours.
describe('a curl line', () => {
  test('JSON of any depth, parameters and headers; secrets are no fields', () => {
    const line = `curl -X POST 'https://stock.example.org/v3/orders/48213/lines?notify=true&api_key=s3' \\
      -H 'Authorization: Bearer abc' -H 'X-Api-Key: s3' -H 'X-Trace: on' -H 'Content-Type: application/json' \\
      --data-raw '{"sku":"PH-50","count":2,"price":1.5,"rush":false,"needed":"2026-12-05","at":"2026-12-05T08:00:00Z","ship":{"town":"Fernhollow"},"tags":["kit"],"more":[{"a":1}]}'`;
    expect(operation(line)).toMatchObject({
      method: 'POST',
      path: '/v3/orders/{order_id}/lines',
      body: 'json',
      baseUrl: 'https://stock.example.org',
    });
    expect(fields(line)).toEqual([
      ['order_id', 'path', 'order_id', 'text'],
      ['notify', 'query', 'notify', 'text'],
      ['X-Trace', 'header', 'X-Trace', 'text'],
      ['sku', 'body', '/sku', 'text'],
      ['count', 'body', '/count', 'integer'],
      ['price', 'body', '/price', 'number'],
      ['rush', 'body', '/rush', 'boolean'],
      ['needed', 'body', '/needed', 'date'],
      ['at', 'body', '/at', 'datetime'],
      ['ship.town', 'body', '/ship/town', 'text'],
      ['tags', 'body', '/tags', 'choices'],
      ['more', 'body', '/more', 'json'],
    ]);
    expect(JSON.stringify(operation(line))).not.toMatch(/s3|abc/);
  });
  test.each<[string, string, string]>([
    ["curl https://a.example.org/x -d 'a=1&b%5Bc%5D=2'", 'POST', 'urlencoded'],
    ['curl https://a.example.org/x --data-urlencode "note=a b" -d c=1', 'POST', 'urlencoded'],
    ['curl -F note=x -F photo=@a.jpg https://a.example.org/x', 'POST', 'multipart'],
    ['curl https://a.example.org/x', 'GET', 'none'],
    ['curl -G -d q=1 https://a.example.org/x', 'GET', 'none'],
    ['curl -XPUT --url https://a.example.org/x --json {}', 'PUT', 'json'],
    ['curl -H "Content-Type: text/plain" -d "just words" a.example.org/x', 'POST', 'text'],
    ['curl --request=PATCH -u me:secret https://a.example.org/x -d a=1', 'PATCH', 'urlencoded'],
  ])('%s', (line, method, body) => expect(operation(line)).toMatchObject({ method, path: '/x', body }));
  test('files are fields that take files, nested names stand at their place', () => {
    expect(fields('curl -F note=x -F photo=@a.jpg https://a.example.org/x')).toEqual([
      ['note', 'body', '/note', 'text'],
      ['photo', 'body', '/photo', 'file'],
    ]);
    expect(fields("curl https://a.example.org/x -d 'a=1&b%5Bc%5D=2'")).toEqual([
      ['a', 'body', '/a', 'text'],
      ['b.c', 'body', '/b/c', 'text'],
    ]);
  });
});

// HTTP Archive 1.2, “entries”, “request”, “postData”.
test('a HAR file gives an operation for each request to the first host', () => {
  const entry = (method: string, url: string, text?: string) => ({
    request: {
      method,
      url,
      headers: [{ name: 'Cookie', value: 's' }],
      ...(text && { postData: { mimeType: 'application/json', text } }),
    },
  });
  const har = {
    log: {
      entries: [
        entry('POST', 'https://a.example.org/x', '{"b":1}'),
        entry('GET', 'https://a.example.org/x'),
        entry('POST', 'https://a.example.org/x', '{"b":2}'),
        entry('GET', 'https://b.example.org/y'),
      ],
    },
  };
  const found = readExample(JSON.stringify(har));
  expect(found).toMatchObject({
    baseUrl: 'https://a.example.org',
    operations: [
      { id: 'POST /x', fields: [{ key: 'b' }] },
      { id: 'GET /x', fields: [] },
    ],
  });
});

test('a record, or a list of them', () => {
  expect(fields('{"site":"AB-07","when":{"day":"2026-11-04"}}')).toEqual(
    fields('[{"site":"AB-07","when":{"day":"2026-11-04"}}, {}]'),
  );
  expect(fields('{"a/b":1}')).toEqual([['a/b', 'body', '/a~1b', 'integer']]);
});

test.each([
  '',
  'hello',
  '[]',
  '3',
  'curl',
  'curl --data x',
  '{"log":{"entries":[{}]}}',
  '{"log":{"entries":[{"request":{"method":"BREW","url":"pot"}}]}}',
  `curl '${'('.repeat(500)}`,
  `{"a":${'['.repeat(5000)}`,
])('what is none is said: %s', text => expect(readExample(text)).toHaveProperty('fault'));
