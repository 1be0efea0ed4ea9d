import { onePixel, severities, sites } from '@grammata/practice';
import { people } from '../people';
import { given, pastOf, type PastAnswer } from './past';

const happenings = [
  'Diesel smell and a rainbow film from the outfall, about 20 m long.',
  'Dead fish – I counted eleven.\nMostly small ones.',
  'The footbridge rail is broken.',
  'Somebody is pumping grey water into the race RIGHT NOW',
  'Foam under the weir, half a metre high',
  'Calf in the river, alive, farmer called.',
  'Tree down across the channel; boats can’t pass.',
];

/** Alerts: some with photographs, which come along as files. */
export const pastAlerts = (until: number): PastAnswer[] =>
  pastOf(
    {
      seed: 20260915,
      count: 24,
      days: 40,
      letter: 'i',
      answers: (random, _, index) => {
        const person = random.pick(people);
        const files = Array.from({ length: random.pick([0, 0, 1, 1, 2, 3]) }, (__, each) => ({
          name: random.pick([`IMG_${4100 + index * 3 + each}.png`, 'the spill (close).png', 'Föhre über Bach.png']),
          href: '',
          bytes: onePixel.length,
          mime: 'image/png',
          content: onePixel,
        }));
        return given({
          severity: random.pick([...severities, severities[1]!]),
          what: random.pick(happenings),
          where: random.chance(0.85) ? random.pick(sites) : 'Somewhere else',
          reporter: person.name,
          callback: random.chance(0.8) ? person.phone : undefined,
          evidence: files.length > 0 ? files : undefined,
        });
      },
    },
    until,
  );
