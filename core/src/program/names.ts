/** The regulars of the house, in the order in which they take seats where nobody gives other names; as many as a table has seats. */
export const REGULARS = [
  'Wren',
  'Otter',
  'Heron',
  'Pike',
  'Teal',
  'Newt',
  'Moth',
  'Vole',
  'Rail',
  'Coot',
  'Dace',
  'Rudd',
] as const;
