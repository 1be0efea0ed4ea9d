import { sites, signs, type Answers } from '@grammata/practice';
import { DateTime } from 'luxon';
import { otherSigns, people, remarks } from '../people';
import { randomFrom, type Random } from '../random';
import type { PastAnswer } from './past';

/** How many past reports the demo has, duplicates not counted. */
export const REPORTS = 136;
/** Over how many days they came. */
const DAYS = 33;
/** A site that the form offers since last week and the register does not know yet. */
export const NEW_SITE = 'Reed Corner (AB-21)';

/** The past sampling reports of Alder Basin River Watch up to a moment, oldest first: all invented, messy as real ones. */
export function pastReports(until: number): PastAnswer[] {
  const random = randomFrom(20260704);
  const times = timesOfArrival(until, random);
  const reports = times.map((receivedAt, index) => report(index, receivedAt, random));
  // Two were sent twice by the builder.
  const twice = [31, 90].map(index => ({ ...reports[index]!, receivedAt: reports[index]!.receivedAt + 4000 }));
  return [...reports, ...twice].sort((a, b) => a.receivedAt - b.receivedAt);
}

/** When they came, oldest first: mostly at weekends, by daylight. */
function timesOfArrival(until: number, random: Random): number[] {
  const times = Array.from({ length: REPORTS * 2 }, () => {
    const day = DateTime.fromMillis(until, { zone: 'Europe/London' }).minus({ days: random.below(DAYS) });
    const at = day.set({ hour: 8 + random.below(11), minute: random.below(60), second: random.below(60) }).toMillis();
    return { at, keep: day.weekday >= 6 || random.chance(0.35) };
  });
  const past = times.filter(({ at, keep }) => keep && at < until - 600_000).map(each => each.at);
  const spare = times.filter(({ at, keep }) => !keep && at < until - 600_000).map(each => each.at);
  return [...past, ...spare].slice(0, REPORTS).sort((a, b) => a - b);
}

function report(index: number, receivedAt: number, random: Random): PastAnswer {
  const person = random.pick(people);
  const sampled = DateTime.fromMillis(receivedAt, { zone: 'Europe/London' }).minus({ minutes: 20 + random.below(300) });
  const isLate = index > REPORTS - 30;
  const answers: Answers = {
    s1: isLate && random.chance(0.1) ? NEW_SITE : random.pick(sites),
    s2: moment(sampled, index, random),
  };
  const put = (id: string, share: number, value: () => Answers[string]) => {
    if (random.chance(share)) answers[id] = value();
  };
  put('s3', 0.82, () => temperature(random));
  put('s4', 0.78, () =>
    random.pick(['7.4', '7,2', '7', 'about 7.5', '6.8', '8.1 (strip)', 'could not read the strip', '7.0', '6,9']),
  );
  put('s5', 0.6, () => `${random.below(24)}${random.chance(0.3) ? ' mg/l' : ''}`);
  put('s6', 0.88, () => seen(random));
  put('s7', 0.45, () => random.pick(remarks));
  answers.s8 = person.name;
  answers.s9 = person.mail;
  if (person.phone) put('s10', 0.8, () => person.phone!);
  put('s11', 0.7, () => random.below(5));
  put('s12', 0.35, () => photos(index, random));
  answers.s13 = random.chance(0.4);
  const entry = `e-${(0x51f00 + index * 37).toString(16)}`;
  return {
    receivedAt,
    filled: {
      entry,
      sent: new Date(receivedAt - 2000).toISOString(),
      answers,
      client: { addr: `192.0.2.${10 + random.below(200)}`, agent: 'practice' },
    },
  };
}

/** A time as people type it. */
function moment(at: DateTime, index: number, random: Random): string {
  if (index === 40) return 'this morning, early';
  if (index === 97) return '31/09/2026 8:15';
  const pattern = random.pick([
    'dd/MM/yyyy H:mm',
    'dd/MM/yyyy H:mm',
    'd/M/yy HH:mm',
    'd.M.yyyy HH:mm',
    'd MMM yyyy h:mm a',
    "yyyy-MM-dd'T'HH:mm",
    'dd-MM-yyyy H:mm',
  ]);
  return at.toFormat(pattern, { locale: 'en' });
}

function temperature(random: Random): string {
  const degrees = (4 + random.below(90) / 10).toFixed(1);
  return random.pick([
    degrees,
    `${degrees} °C`,
    degrees.replace('.', ','),
    `${degrees.replace('.', ',')} °C`,
    `${Math.round(Number(degrees))}`,
    `approx. ${degrees}`,
  ]);
}

function seen(random: Random): string[] {
  if (random.chance(0.3)) return ['None'];
  const marked = signs.slice(1).filter(() => random.chance(0.28));
  if (random.chance(0.12)) marked.push(`Other: ${random.pick(otherSigns)}`);
  return marked.length > 0 ? marked : ['None'];
}

function photos(index: number, random: Random) {
  return Array.from({ length: random.pick([1, 1, 2, 3]) }, (_, each) => {
    const name = random.pick(['outfall.jpg', 'bank.jpg', 'IMG_2041.jpeg', 'weir (left side).jpg', 'foto–brücke.png']);
    return {
      name,
      href: `https://files.example.org/${index}/${each}/${encodeURIComponent(name)}`,
      bytes: 180_000 + random.below(3_000_000),
      mime: name.endsWith('png') ? 'image/png' : 'image/jpeg',
    };
  });
}
