/** Invented observers: names as they type them, addresses under example.org, telephone numbers reserved for fiction. */
export const people: { name: string; mail: string; phone?: string }[] = [
  { name: 'Morenike Adeyemi', mail: 'M.Adeyemi@Example.org', phone: '020 7946 0142' },
  { name: 'adeyemi, morenike', mail: 'm.adeyemi@example.org', phone: '+44 (0)20 7946 0142' },
  { name: 'Tomasz Wilk', mail: 'tomasz.wilk@example.org', phone: '02079460311' },
  { name: 'ELODIE  MARCHAND', mail: 'elodie.marchand@example.org' },
  { name: 'Élodie Marchand ', mail: 'Elodie.Marchand@EXAMPLE.org', phone: '020-7946-0877' },
  { name: 'Jonas van der Linden', mail: 'jonas.vdl@example.org', phone: '0207 946 0455 (evenings)' },
  { name: 'Aoife O’Rourke', mail: 'aoife@example.org' },
  { name: 'Dr. Ravi Chandran', mail: 'ravi.chandran@example.org', phone: '+442079460098' },
  { name: 'Wen Xiu (文秀)', mail: 'wen.xiu@example.org' },
  { name: 'Gwenllian Pryce-Hughes', mail: 'gwen.ph@example.org', phone: '7946 0233' },
  { name: 'sam', mail: 'sam.k@example.org', phone: 'ask my mum' },
  { name: 'Sören Ångström', mail: 'soren@example.org', phone: '020 7946 0701' },
  { name: 'Maria das Neves', mail: 'maria.neves@example.org' },
  {
    name: 'Bartholomew Featherstonehaugh-Cholmondeley the Younger',
    mail: 'bart.fc@example.org',
    phone: '020 7946 0999',
  },
];

/** What people write into the box for everything else. */
export const remarks = [
  'Smell of diesel by the outfall. Two anglers said it has been there since Sunday.',
  'Water very low.\nStepping stones dry.\n\nCould not reach the usual spot.',
  'Kingfisher!! 🐦 twice',
  'nothing',
  'Strip was out of date, sorry – I’ll get new ones.',
  'The gauge board has come loose & hangs by one screw. “Someone” should fix it before the next flood.',
  'Foam only below the weir, none above.',
  'Dog walkers asked what we do – gave them the leaflet.',
  'Près du pont, l’eau était trouble après l’orage.',
  'Photographs show the left bank, looking downstream. We measured three times because the first reading (14.2) seemed far too high for the season; the second and third agreed to within a tenth of a degree. Thermometer no. 4, which has a cracked case, may need replacing. Access path is overgrown from the stile to the second gate and should be cut before the spring survey.',
  '<b>see last report</b>',
  'As per usual',
];

/** What stands under “Other” among the signs. */
export const otherSigns = ['dead eels', 'white film near outfall', 'shopping trolley', 'pink water??'];
