import fc from 'fast-check';
import { match, type MatchTarget, type SourceField } from '.';
import { meaningOf } from './words';

const asked = (...labels: string[]): SourceField[] => labels.map((label, index) => ({ key: `q${index + 1}`, label }));
const from = (sources: SourceField[], target: MatchTarget) => match(sources, [target])[0]!.from;

describe('one question, one field', () => {
  test.each([
    ['Your e-mail', 'email_address'],
    ['Date of birth', 'dob'],
    ['PLZ', 'postal_code'],
    ['Nom de famille', 'last_name'],
    ['Correo electrónico', 'email'],
    ['Bemerkungen', 'notes'],
    ['How did you hear about us?', 'lead_source'],
    ['Dietary requirements', 'allergies'],
    ['Water temperature', 'temperature_c'],
    ['Lieferadresse', 'delivery_address'],
  ])('“%s” goes to %s', (label, key) => expect(from(asked(label), { key })).toBe('q1'));

  test.each([
    ['Your e-mail', 'phone'],
    ['Date of birth', 'start_date'],
    ['Emergency phone', 'phone'],
    ['Delivery address', 'billing_address'],
    ['Parent’s name', 'company'],
    ['Which kits?', 'country'],
    ['Signed up on', 'temperature'],
  ])('“%s” does not go to %s', (label, key) => expect(from(asked(label), { key })).toBeNull());
});

test('like things are told apart, whatever their order', () => {
  const sources = asked('Work phone', 'Mobile phone', 'Emergency telephone');
  const lines = match(sources, [{ key: 'emergency_phone' }, { key: 'office_phone' }, { key: 'mobile' }]);
  expect(lines.map(each => each.from)).toEqual(['q3', 'q1', 'q2']);
});

test('each answer goes to one field, but parts are taken out of a whole', () => {
  const lines = match(asked('Full name', 'Address'), [
    { key: 'first_name' },
    { key: 'last_name' },
    { key: 'city' },
    { key: 'name' },
  ]);
  expect(lines.map(each => each.from)).toEqual(['q1', 'q1', 'q2', 'q1']);
  expect(lines[0]!.why).toBe('A part of “Full name”, which holds it whole.');
});

test.each([
  [
    ['Prénom', 'Nom'],
    ['q1', 'q2'],
  ],
  [
    ['Nom', 'Prénom'],
    ['q2', 'q1'],
  ],
  [
    ['Nombre', 'Apellidos'],
    ['q1', 'q2'],
  ],
  [
    ['Vorname', 'Name'],
    ['q1', 'q2'],
  ],
])('a name beside a part of it is the other part: %j', (labels, expected) => {
  const lines = match(asked(...labels), [{ key: 'first_name' }, { key: 'last_name' }]);
  expect(lines.map(each => each.from)).toEqual(expected);
});

test.each([
  ['Wunschtermin', ['preference', 'appointment']],
  ['Telefonnummer', ['telefonnumm']],
  ['Sonderwünsche', ['special', 'preference']],
  ['member_no', ['member', 'number']],
])('%s says %j', (text, stems) => expect(meaningOf(text).stems).toEqual(stems));

test('options and values speak where words do not', () => {
  const sources: SourceField[] = [
    { key: 'q_1', label: 'Pick one', samples: ['Low', 'Severe'] },
    { key: 'q_2', label: 'Contact', samples: ['a@example.org'] },
  ];
  const lines = match(sources, [
    { key: 'severity', type: 'choice', options: ['Low', 'Worrying', 'Severe'] },
    { key: 'mail', label: 'E-mail', type: 'email' },
  ]);
  expect(lines.map(each => each.from)).toEqual(['q_1', 'q_2']);
  expect(lines[0]!.why).toContain('100 % of the answers are among its options');
});

test('every target has one line with a score from 0 to 1 and a reason; it never throws', () => {
  const text = fc.oneof(fc.string(), fc.constantFrom('Name', 'E-mail', 'Adresse', 'q1', 'Geburtsdatum', ''));
  fc.assert(
    fc.property(
      fc.array(fc.record({ key: text, label: text, samples: fc.array(fc.jsonValue()) }), { maxLength: 8 }),
      fc.array(fc.record({ key: text, label: text, type: text, description: text }), { maxLength: 8 }),
      (sources, targets) => {
        const lines = match(sources as SourceField[], targets);
        expect(lines.map(each => each.to)).toEqual(targets.map(each => each.key));
        for (const { score, why, from: source } of lines) {
          expect(score).toBeGreaterThanOrEqual(0);
          expect(score).toBeLessThanOrEqual(1);
          expect(why).toMatch(/\S/);
          expect(source === null).toBe(score === 0);
        }
      },
    ),
  );
});
