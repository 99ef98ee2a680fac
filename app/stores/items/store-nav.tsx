import { NavLink } from "react-router";

import { useIsLead } from "~/people/use-me";

const PLACES: readonly (readonly [to: string, name: string, lead?: true])[] = [
  ["/stores", "Now"],
  ["/stores/items", "Items"],
  ["/stores/orders", "Orders"],
  ["/stores/kits", "Kits"],
  ["/stores/need", "What a span takes"],
  ["/stores/costs", "Costs", true],
];

/** The views of the stores. */
export function StoreNav() {
  const lead = useIsLead();
  return (
    <nav aria-label="Stores" className="no-print mb-4 flex flex-wrap gap-x-5 gap-y-1 border-b border-line">
      {PLACES.filter(([, , leads]) => !leads || lead).map(([to, name]) => (
        <NavLink
          key={to}
          to={to}
          end={to === "/stores"}
          className={({ isActive }) =>
            `-mb-px inline-block min-h-11 border-b-4 py-2.5 no-underline ${isActive ? "border-tan-fill font-bold" : "border-transparent hover:border-line"}`
          }
        >
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
