import { MarginGroup, Note } from '../frame/Margin.tsx';

/** What logs may look like, and what is worth a look before they are a study. */
export function LogsMargin() {
  return (
    <>
      <MarginGroup title="What can be read">
        <Note>
          Text with columns parted by commas, semicolons, tabs or bars; JSON, one object a line; workbooks (.xlsx). Each of them also as
          .gz, or many in a .zip.
        </Note>
        <Note>
          Traces over time; sweeps of a fan; tables of settled figures. The last two are kept as figures as given, with no traces behind
          them.
        </Note>
        <Note>
          Variant and mount are taken from the names of files: “stock m2 a” is the second mount of stock, and so is “m2” in a folder called
          stock. A long name is shortened; two signs in brackets keep it apart from others.
        </Note>
      </MarginGroup>
      <MarginGroup title="Before you make the study">
        <Note>Open a log to see where its phases were found. Their ends can be dragged, or typed.</Note>
        <Note>Say the mount where you know it. Runs on one mount agree better than refits do, so unknown mounts weaken a verdict.</Note>
        <Note>What is put down is kept for a day.</Note>
      </MarginGroup>
    </>
  );
}
