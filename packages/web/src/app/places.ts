/** The places, in the order people work in; `g` and the letter go there. */
export const places = [
  { to: '/', name: 'Desk', letter: 'd' },
  { to: '/intakes', name: 'Intakes', letter: 'i' },
  { to: '/forms', name: 'Forms', letter: 'f' },
  { to: '/routes', name: 'Routes', letter: 'r' },
  { to: '/targets', name: 'Targets', letter: 't' },
  { to: '/deliveries', name: 'Deliveries', letter: 'e' },
  { to: '/changes', name: 'Changes', letter: 'c' },
  { to: '/practice', name: 'Practice', letter: 'p' },
];
