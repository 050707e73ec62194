/** A day at the simulated card bench that ships with the pages. */
const NAMES = [
  'Wren 8 stock paste m1.csv',
  'Wren 8 paste L m1.csv',
  'Wren 8 paste L m2.csv',
  'Wren 8 stock paste m2.csv',
  'Wren 8 paste L fans auto.csv',
];

/** The sample logs as files; null where they could not be read. */
export async function sampleLogs(): Promise<File[] | null> {
  try {
    return await Promise.all(
      NAMES.map(async (name) => {
        const answer = await fetch(`/samples/${encodeURIComponent(name)}`);
        if (!answer.ok) throw new Error(answer.statusText);
        return new File([await answer.blob()], name, { type: 'text/csv' });
      }),
    );
  } catch {
    return null;
  }
}
