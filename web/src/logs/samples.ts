/** Files of a day at the simulated card bench, which ship with the pages. */
export const SAMPLE_DAY = [
  'Wren 8 stock paste m1.csv',
  'Wren 8 paste L m1.csv',
  'Wren 8 paste L m2.csv',
  'Wren 8 stock paste m2.csv',
  'Wren 8 paste L fans auto.csv',
];
