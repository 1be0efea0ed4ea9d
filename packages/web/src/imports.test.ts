import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

const packages = path.resolve(__dirname, '../..');
const endings = ['', '.ts', '.tsx', '/index.ts', '/index.tsx'];
const isFile = (at: string) => existsSync(at) && statSync(at).isFile();

/** The file that an import means; null for what is no file of ours. */
function fileOf(from: string, name: string): string | null {
  const [, workspace, rest] = /^@grammata\/([a-z]+)(?:\/(.+))?$/.exec(name) ?? [];
  const base = workspace
    ? path.join(packages, workspace, 'src', rest ?? '')
    : name.startsWith('.')
      ? path.resolve(path.dirname(from), name)
      : null;
  return base === null ? null : (endings.map(ending => base + ending).find(isFile) ?? null);
}

const sources = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap(each =>
    each.isDirectory()
      ? sources(path.join(folder, each.name))
      : /\.tsx?$/.test(each.name) && !/\.test\.tsx?$/.test(each.name)
        ? [path.join(folder, each.name)]
        : [],
  );

type Graph = Map<string, string[]>;

const graphOf = (files: string[]): Graph =>
  new Map(
    files.map(file => [
      file,
      ts
        .preProcessFile(readFileSync(file, 'utf8'))
        .importedFiles.flatMap(each => fileOf(file, each.fileName) ?? [])
        .filter(each => each !== file),
    ]),
  );

/** A way through the graph that ends where it began; null where there is none. */
function circleIn(graph: Graph): string[] | null {
  const done = new Set<string>();
  const walk = (at: string, way: string[]): string[] | null => {
    const before = way.indexOf(at);
    if (before >= 0) return [...way.slice(before), at];
    if (done.has(at)) return null;
    for (const next of graph.get(at) ?? []) {
      const circle = walk(next, [...way, at]);
      if (circle) return circle;
    }
    done.add(at);
    return null;
  };
  for (const at of graph.keys()) {
    const circle = walk(at, []);
    if (circle) return circle;
  }
  return null;
}

const named = (circle: string[] | null) => circle?.map(each => path.relative(packages, each)) ?? null;
const all = ['core', 'contract', 'server', 'web', 'practice', 'cli'].flatMap(each =>
  isFile(path.join(packages, each, 'package.json')) ? sources(path.join(packages, each, 'src')) : [],
);

test('the check sees a circle, and the imports of all packages', () => {
  expect(circleIn(new Map([['a', ['b']], ['b', ['c']], ['c', ['b']]]))).toEqual(['b', 'c', 'b']); // prettier-ignore
  expect(circleIn(new Map([['a', ['b', 'c']], ['b', ['c']], ['c', []]]))).toBeNull(); // prettier-ignore
  expect(all.length).toBeGreaterThan(400);
  const edges = [...graphOf(all).values()].reduce((sum, each) => sum + each.length, 0);
  expect(edges).toBeGreaterThan(1000);
});
test('no import goes in a circle, type imports included', () => {
  expect(named(circleIn(graphOf(all)))).toBeNull();
});
test('the folders of the interface go in no circle either', () => {
  const web = path.join(packages, 'web', 'src');
  const folder = (file: string) => path.relative(web, file).split(path.sep)[0]!;
  const folders: Graph = new Map();
  for (const [file, imported] of graphOf(sources(web))) {
    const own = folder(file);
    const others = imported.filter(each => each.startsWith(web) && folder(each) !== own).map(folder);
    folders.set(own, [...new Set([...(folders.get(own) ?? []), ...others])]);
  }
  expect(circleIn(folders)).toBeNull();
});
