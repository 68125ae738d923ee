/** Default names of seats, in order; as many as a table can have. */
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
