import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Attacked, until } from './server';

export interface DiskFigures {
  /** How the disk was made small. */
  by: string;
  acknowledged: number;
  refused: number;
  /** Acknowledged ones that are not there after a restart. */
  lost: number;
  told: string | null;
  goesOn: boolean;
}

/** A disk of 24 MB that fills up under load: nothing that was acknowledged is lost, it is said, and it goes on with room. */
export async function attackDisk(): Promise<DiskFigures | null> {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-disk-'));
  if (spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=24m', 'tmpfs', folder]).status !== 0) return null;
  const ballast = path.join(folder, 'ballast');
  const attacked = await Attacked.fresh({}, folder);
  try {
    const intake = await attacked.call<{ id: string; address: string }>('POST', '/intakes', { name: 'Full' });
    const send = async (n: number) =>
      (
        await fetch(intake.address, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ submission_id: `n${n}`, site: 'AB-07', note: 'x'.repeat(20_000) }),
        }).catch(() => ({ status: 0 }))
      ).status;
    const { bavail, bsize } = statfsSync(folder);
    writeFileSync(ballast, Buffer.alloc(Math.max(0, bavail * bsize - 2_000_000)));
    const statuses: number[] = [];
    for (let n = 0; n < 300; n++) statuses.push(await send(n));
    const desk = await attacked.call<{ storage: { message: string } | null }>('GET', '/desk');
    await attacked.kill();
    rmSync(ballast);
    await attacked.start();
    const acknowledged = statuses.filter(each => each === 202).length;
    const count = async () => (await attacked.call<{ arrivals: number }>('GET', `/intakes/${intake.id}`)).arrivals;
    const goesOn = (await send(9999)) === 202;
    await until(async () => (await count()) > acknowledged, 20_000, 'all are there').catch(() => undefined);
    return {
      by: 'a mounted file system of 24 MB',
      acknowledged,
      refused: statuses.filter(each => each === 503).length,
      lost: Math.max(0, acknowledged + 1 - (await count())),
      told: desk.storage?.message ?? null,
      goesOn,
    };
  } finally {
    await attacked.kill();
    spawnSync('umount', [folder]);
    rmSync(folder, { recursive: true, force: true });
  }
}
