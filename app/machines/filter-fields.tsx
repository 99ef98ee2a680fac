import { familyName } from "~/ui/family-names";

/** What lists of machines and of what is on them are narrowed by: a site, by what it is called, and a family. */
export function SiteAndFamily({
  site,
  family,
  families,
}: {
  site: string | null | undefined;
  family: string | null | undefined;
  families: readonly string[];
}) {
  return (
    <>
      <div className="min-w-40 flex-1">
        <label htmlFor="site" className="block text-sm font-semibold">
          Site
        </label>
        <input id="site" name="site" className="field" defaultValue={site ?? ""} />
      </div>
      <div>
        <label htmlFor="family" className="block text-sm font-semibold">
          Family
        </label>
        <select id="family" name="family" className="field" defaultValue={family ?? ""}>
          <option value="">All families</option>
          {families.map((one) => (
            <option key={one} value={one}>
              {familyName(one)}
            </option>
          ))}
        </select>
      </div>
    </>
  );
}
