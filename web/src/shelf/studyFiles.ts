import { unzip } from 'fflate';

/** What a study file holds, and a zip of logs does not. */
const MEMBERS = ['datapackage.json', 'study.sqlite'];
/** What a file of a whole bench holds beside its study files. */
const CONTENTS = 'bench.json';

/** The members of a zip that are wanted; of the others only their names are looked at. */
const membersOf = (bytes: Uint8Array, wanted: (name: string) => boolean) =>
  new Promise<{ names: Set<string>; members: Record<string, Uint8Array> }>((resolve) => {
    const names = new Set<string>();
    const filter = ({ name }: { name: string }) => {
      names.add(name);
      return wanted(name);
    };
    unzip(bytes, { filter }, (error, members) => resolve({ names, members: error ? {} : members }));
  });

/** The study files that a dropped file is, or is made of: one, or all of a bench; none where it is something else. */
async function studyFilesOf(file: File): Promise<File[]> {
  if (!/\.zip$/i.test(file.name)) return [];
  const bytes = new Uint8Array(await file.arrayBuffer());
  const { names } = await membersOf(bytes, () => false);
  if (MEMBERS.every((name) => names.has(name))) return [file];
  if (!names.has(CONTENTS)) return [];
  const { members } = await membersOf(bytes, (name) => /^[^/\\]+\.zip$/i.test(name));
  return Object.entries(members).map(([name, content]) => new File([new Uint8Array(content)], name, { type: 'application/zip' }));
}

/** Dropped files, studies of other benches apart from everything else. */
export async function sorted(dropped: readonly File[]): Promise<{ studies: File[]; others: File[] }> {
  const studies = await Promise.all(dropped.map((file) => studyFilesOf(file)));
  return { studies: studies.flat(), others: dropped.filter((_, i) => studies[i]!.length === 0) };
}
