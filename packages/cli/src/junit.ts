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

/**
 * What was checked as JUnit XML, the common form that pipelines read: a suite for each route, a case for each proof. There is no standard of
 * it; this is what the schema of the Apache Ant tasks and that of JUnit 4 reports both take.
 * @param at ms since the epoch
 */
export function junitOf(routes: readonly CheckedRoute[], at: number): string {
  // Without a zone, as the schema has it: in UTC.
  const timestamp = new Date(at).toISOString().slice(0, 19);
  const suites = routes.map(({ route, fault, proofs }, number) => {
    const failed = proofs.filter(each => each.differences.length > 0).length;
    const cases = proofs.map(({ file, differences }) => ({
      '@name': plain(file),
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
      '@package': 'grammata',
      '@id': String(number),
      '@timestamp': timestamp,
      '@hostname': 'localhost',
      '@tests': String(cases.length + broken.length),
      '@failures': String(failed),
      '@errors': String(broken.length),
      '@time': '0',
      properties: { property: { '@name': 'proofs', '@value': String(proofs.length) } },
      testcase: [...broken, ...cases],
      'system-out': '',
      'system-err': '',
    };
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n${xml.build({ testsuites: { testsuite: suites } })}`;
}
