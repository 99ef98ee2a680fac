/** How days are meant that can be read in two ways; asked for only where a file does not tell by itself. */
export function DayOrderField() {
  return (
    <div className="my-3">
      <label htmlFor="day-order" className="mb-1 block font-semibold">
        Days such as 03/04/2026
      </label>
      <select id="day-order" name="dayOrder" className="field max-w-72">
        <option value="">As the file&apos;s other days tell</option>
        <option value="day-first">Day first: 3 April</option>
        <option value="month-first">Month first: 4 March</option>
      </select>
    </div>
  );
}
