import { interests } from '@grammata/practice';
import { people } from '../people';
import { given, pastOf, type PastAnswer } from './past';

const addresses = [
  '14 Weir Lane, Fernhollow, FH3 9ZZ',
  'Flat 2, 7 Mill Street\nAlderton\nAB1 0ZZ',
  '3 Quarry Cottages, Basin Head',
  'c/o The Lock House, Lower Alder, AB15 0ZZ',
  '22b Station Road Alderton AB1 0ZZ',
  'Otter Weir Farm,\nnear Fernhollow',
];
const birthdays = [
  '12/03/1984',
  '3.7.91',
  'March 5th 1960',
  '1999-11-30',
  '29/02/1988',
  '31/04/1975',
  'not telling',
  '7 Sept 2001',
];

/** Volunteers who signed up: some twice, some with an address in one line. */
export const pastSignUps = (until: number): PastAnswer[] =>
  pastOf(
    {
      seed: 20260811,
      count: 64,
      days: 60,
      letter: 'v',
      answers: random => {
        const person = random.pick(people);
        const chosen = interests.filter(() => random.chance(0.35));
        if (random.chance(0.1)) chosen.push(`Other: ${random.pick(['baking', 'photography', 'drone footage'])}`);
        return given({
          v1: person.name,
          v2: person.mail,
          v3: random.chance(0.7) ? person.phone : undefined,
          v4: random.chance(0.8) ? random.pick(addresses) : undefined,
          v5: chosen.length > 0 ? chosen : undefined,
          v6: random.chance(0.6) ? random.pick(birthdays) : undefined,
          v7: random.chance(0.95),
        });
      },
    },
    until,
  ).map((past, index) => ({ ...past, generation: index < 14 ? 'earlier' : 'now' }));
