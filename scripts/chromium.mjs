/** Finds Chromium, or installs Debian's where there is none. */
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const places = [
  process.env.CHROMIUM,
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
].filter(Boolean);
const find = () => places.find(place => existsSync(place)) ?? null;

/** The path of a Chromium that can be run, or null. */
export function ensureChromium() {
  const found = find();
  if (found) return found;
  if (process.platform !== 'linux' || !existsSync('/usr/bin/apt-get')) return null;
  console.log('Installing Chromium…');
  const sudo = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
  for (const args of [
    ['apt-get', 'update', '-qq'],
    ['apt-get', 'install', '-y', '-qq', '--no-install-recommends', 'chromium'],
  ]) {
    const [command, ...rest] = [...sudo, ...args];
    spawnSync(command, rest, {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  }
  return find();
}
