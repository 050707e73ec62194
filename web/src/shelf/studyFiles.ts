import { unzip } from 'fflate';

/** What a study file holds, and a zip of logs does not. */
const MEMBERS = ['datapackage.json', 'study.sqlite'];

/** Whether a dropped file is a study that some bench wrote. Only its list of contents is looked at. */
async function isStudyFile(file: File): Promise<boolean> {
  if (!/\.zip$/i.test(file.name)) return false;
  const bytes = new Uint8Array(await file.arrayBuffer());
  return new Promise((resolve) => {
    const names = new Set<string>();
    const filter = ({ name }: { name: string }) => {
      names.add(name);
      return false;
    };
    unzip(bytes, { filter }, () => resolve(MEMBERS.every((name) => names.has(name))));
  });
}

/** Dropped files, studies of other benches apart from everything else. */
export async function sorted(dropped: readonly File[]): Promise<{ studies: File[]; others: File[] }> {
  const studies = await Promise.all(dropped.map((file) => isStudyFile(file)));
  return { studies: dropped.filter((_, i) => studies[i]), others: dropped.filter((_, i) => !studies[i]) };
}
