import { mkdtempSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import certificates from '../../packages/server/src/testing/certificates.json';
import { Attacked } from './server';

/** What the server says of targets whose certificates an authority issued that it was started to know. */
export async function attackTls(): Promise<{ certificate: string; verdict: string; ok: boolean }[]> {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'grammata-tls-')), 'authority.pem');
  writeFileSync(file, certificates.authority);
  const attacked = await Attacked.fresh({ NODE_EXTRA_CA_CERTS: file });
  try {
    return await Promise.all(
      (['good', 'other', 'expired'] as const).map(async certificate => {
        const tables = JSON.stringify({ tables: [{ key: 'samples', title: 'Samples', columns: [] }] });
        const target = createServer(certificates[certificate], (_, response) =>
          response.writeHead(200, { 'content-type': 'application/json' }).end(tables),
        );
        await new Promise<void>(done => target.listen(0, '127.0.0.1', done));
        const { port } = target.address() as AddressInfo;
        const baseUrl = `https://127.0.0.1:${port}`;
        const { id } = await attacked.call<{ id: string }>('POST', '/targets', { name: certificate, baseUrl });
        const { ok, verdict } = await attacked.call<{ ok: boolean; verdict: string }>('POST', `/targets/${id}/read`);
        target.close();
        return { certificate, ok, verdict };
      }),
    );
  } finally {
    await attacked.kill();
  }
}
