import type { CheckedRoute } from '@grammata/core/workspace';
import { asText } from '@grammata/core/submission';
import { XMLBuilder } from 'fast-xml-parser';

const xml = new XMLBuilder({
  format: true,
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  suppressEmptyNode: true,
});

/** Characters that XML 1.0 has no way to hold (§2.2). */
// eslint-disable-next-line no-control-regex
const notInXml = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;
const plain = (text: string) => text.replace(notInXml, '');

/** What was checked as JUnit XML, the common form that pipelines read: a suite for each route, a case for each proof. */
export function junitOf(routes: readonly CheckedRoute[]): string {
  const suites = routes.map(({ route, fault, proofs }) => {
    const failed = proofs.filter(each => each.differences.length > 0).length;
    const cases = proofs.map(({ name, differences }) => ({
      '@name': plain(name),
      '@classname': plain(route),
      '@time': '0',
      ...(differences.length > 0 && {
        failure: {
          '@message': `${differences.length} ${differences.length === 1 ? 'difference' : 'differences'} from what was approved`,
          '@type': 'proof',
          '#text': plain(
            differences.map(each => `${each.place || each.kind}: ${asText(each.was)} → ${asText(each.now)}`).join('\n'),
          ),
        },
      }),
    }));
    const broken =
      fault === null
        ? []
        : [
            {
              '@name': 'its calls can be made',
              '@classname': plain(route),
              '@time': '0',
              error: { '@message': plain(fault), '@type': 'route' },
            },
          ];
    return {
      '@name': plain(route),
      '@tests': String(cases.length + broken.length),
      '@failures': String(failed),
      '@errors': String(broken.length),
      '@skipped': '0',
      '@time': '0',
      testcase: [...broken, ...cases],
    };
  });
  const sum = (of: '@tests' | '@failures' | '@errors') =>
    String(suites.reduce((all, each) => all + Number(each[of]), 0));
  const root = { '@tests': sum('@tests'), '@failures': sum('@failures'), '@errors': sum('@errors'), testsuite: suites };
  return `<?xml version="1.0" encoding="UTF-8"?>\n${xml.build({ testsuites: root })}`;
}
