import { NavLink, useParams } from 'react-router';

/** Pages of one kind, side by side. The first is the address that the others begin with. */
export function Tabs({ label, pages }: { label: string; pages: { to: string; label: string }[] }) {
  return (
    <nav aria-label={label} className="mb-5 flex flex-wrap gap-x-6 border-b border-rule">
      {pages.map(({ to, label: words }, i) => (
        <NavLink
          key={to}
          end={i === 0}
          to={to}
          className={({ isActive }) =>
            `page-tab -mb-px border-b-2 pb-1.5 no-underline ${isActive ? 'border-ember font-semibold' : 'border-transparent text-soft hover:text-ink'}`
          }
        >
          {words}
        </NavLink>
      ))}
    </nav>
  );
}

/** Pages of one station. */
export function PageTabs({ station, pages }: { station: string; pages: { path: string; label: string }[] }) {
  const { studyId } = useParams();
  return <Tabs label={`Pages of ${station}`} pages={pages.map(({ path, label }) => ({ to: `/studies/${studyId}/${path}`, label }))} />;
}
