import { NavLink, useParams } from 'react-router';

/** Pages of one station, side by side. The first is the station's own address. */
export function PageTabs({ station, pages }: { station: string; pages: { path: string; label: string }[] }) {
  const { studyId } = useParams();
  return (
    <nav aria-label={`Pages of ${station}`} className="mb-5 flex flex-wrap gap-x-6 border-b border-rule">
      {pages.map(({ path, label }, i) => (
        <NavLink
          key={path}
          end={i === 0}
          to={`/studies/${studyId}/${path}`}
          className={({ isActive }) =>
            `-mb-px border-b-2 pb-1.5 no-underline ${isActive ? 'border-ember font-semibold' : 'border-transparent text-soft hover:text-ink'}`
          }
        >
          {label}
        </NavLink>
      ))}
    </nav>
  );
}
