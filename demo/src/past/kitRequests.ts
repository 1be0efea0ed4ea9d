import { kits } from '@grammata/practice';
import { people } from '../people';
import { given, pastOf, type PastAnswer } from './past';

const places = [
  { street: '14 Weir Lane', town: 'Fernhollow', postcode: 'FH3 9ZZ' },
  { street: 'The Boathouse', town: 'Alderton', postcode: 'ab1 0zz' },
  { street: '3 Quarry Cottages', town: 'Basin Head', postcode: '' },
];

/** Requests for kits: a table of kits and quantities, sometimes empty, sometimes “a few”. */
export const pastKitRequests = (until: number): PastAnswer[] =>
  pastOf(
    {
      seed: 20260902,
      count: 42,
      days: 45,
      letter: 'k',
      answers: (random, at) => {
        const person = random.pick(people);
        const rows = kits
          .filter(() => random.chance(0.3))
          .slice(0, 3)
          .map(kit => ({ kit, quantity: random.pick(['1', '2', '3', '10', 'a few', '2 packs']) }));
        return given({
          name: person.name,
          email: person.mail,
          kits: rows.length > 0 ? rows : undefined,
          delivery: random.chance(0.85) ? random.pick(places) : undefined,
          needed_by: random.chance(0.7)
            ? random.pick([
                at.plus({ days: 12 }).toFormat('dd/MM/yyyy'),
                at.plus({ days: 20 }).toFormat('d LLL'),
                'asap',
                'end of month',
              ])
            : undefined,
          remarks: random.chance(0.3)
            ? random.pick(['Leave it with the neighbour.', 'Last strips were out of date!', 'merci 🙏'])
            : undefined,
        });
      },
    },
    until,
  );
