import { given, pastOf, type PastAnswer } from './past';

const schools = [
  'Fernhollow Primary',
  'St Osyth’s, Alderton',
  'Basin Head Free School',
  'Lower Alder C of E',
  'Escola da Ponte',
];
const teachers = ['Miss Quill', 'Mr. Idris Oakes', 'Mrs Nakamura-Bell', 'Señora Ibarra', 'J. Tumbleweed'];

/** Schools that asked for a visit, by mail. */
export const pastVisits = (until: number): PastAnswer[] =>
  pastOf(
    {
      seed: 20260928,
      count: 26,
      days: 50,
      letter: 'e',
      answers: (random, at) => {
        const at2 = random.below(schools.length);
        return given({
          e1: schools[at2],
          e2: teachers[at2],
          e3: `office${at2 + 1}@school.example.org`,
          e4: random.chance(0.8) ? random.pick(['Year 3', 'Year 4', 'Year 5', 'Year 6']) : undefined,
          e5: random.chance(0.85) ? 8 + random.below(50) : undefined,
          e6: random.chance(0.7)
            ? random.pick([at.plus({ weeks: 5 }).toFormat('d LLLL'), 'any Friday', 'second week of May'])
            : undefined,
          e7: random.chance(0.5)
            ? random.pick([
                'Two children use wheelchairs.\nIs the path paved?',
                'We come by bus.',
                'Could you bring the fish tank?',
              ])
            : undefined,
        });
      },
    },
    until,
  ).map((past, index) => ({ ...past, generation: index % 9 === 4 ? 'earlier' : 'now' }));
