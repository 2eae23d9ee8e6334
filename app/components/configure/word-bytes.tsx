/** The bytes of a word; what changes is underlined and said. Not for ticking: the settings above are. */
export function WordBytes({
  bytes,
  after,
  label,
}: {
  bytes: readonly number[];
  after: readonly number[] | null;
  label: string;
}) {
  const hex = (b: number) => b.toString(16).toUpperCase().padStart(2, "0");
  const row = (list: readonly number[], against: readonly number[] | null) => (
    <span className="num flex flex-wrap gap-x-2.5 text-lg">
      {list.map((b, i) => {
        const differs = against !== null && against[i] !== b;
        return (
          <span
            // biome-ignore lint/suspicious/noArrayIndexKey: a byte is named by its place
            key={i}
            className={differs ? "border-b-[3px] border-watch font-semibold" : "border-b-[3px] border-transparent"}
          >
            {hex(b)}
            {differs && <span className="sr-only"> changed</span>}
          </span>
        );
      })}
    </span>
  );
  return (
    <figure aria-label={label} className="overflow-x-auto">
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
        <dt className="text-quiet">Now</dt>
        <dd>{row(bytes, after)}</dd>
        {after && (
          <>
            <dt className="text-quiet">Then</dt>
            <dd>{row(after, bytes)}</dd>
          </>
        )}
      </dl>
    </figure>
  );
}
