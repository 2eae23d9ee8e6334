import type { Lane, Station } from "~/core/connect/lane";
import { Notice } from "../marks";

/** A lane of stations: every part and lead the signal passes, with the break marked by shape, word and stroke. */
export function LaneDrawing({ lane }: { lane: Lane }) {
  return (
    <div>
      <ol className="sm:flex sm:flex-wrap" aria-label="Stations of the lane">
        {lane.stations.map((s, i) => (
          <li key={`${s.part} ${s.enters}`} className="relative flex gap-3 sm:block sm:w-36 sm:pt-1">
            <StationSign
              station={s}
              isBreak={i === lane.breakAt || i === lane.doubled?.at}
              first={i === 0}
              last={i === lane.stations.length - 1}
            />
            <div className="pb-4 sm:pr-3">
              <p className={`font-medium leading-tight ${s.reached ? "" : "text-quiet"}`}>{s.name}</p>
              <p className="text-sm leading-snug text-quiet">
                {i > 0 && <span className="block">in: {s.enters}</span>}
                {i < lane.stations.length - 1 && <span className="block">out: {s.leaves}</span>}
              </p>
              {i === lane.doubled?.at && (
                <p className="mt-0.5 font-medium text-stop">
                  Two senders meet here: {lane.doubled.senders.join(" and ")}
                </p>
              )}
              {i === lane.breakAt && <p className="mt-0.5 font-medium text-stop">Stops here</p>}
            </div>
          </li>
        ))}
      </ol>
      {lane.works ? (
        <Notice tone="good" title="The signal arrives." />
      ) : (
        <Notice tone="watch" title={lane.doubled ? "Why it is not clear" : "Why it stops"}>
          <ol className="list-decimal pl-5">
            {lane.reasons.map((r) => (
              <li key={r}>{r}</li>
            ))}
          </ol>
        </Notice>
      )}
    </div>
  );
}

/** A device is a square, a lead a flat bar, the loom a ring; reached ones are filled, the break is a cross. */
function StationSign({
  station,
  isBreak,
  first,
  last,
}: {
  station: Station;
  isBreak: boolean;
  first: boolean;
  last: boolean;
}) {
  const line = station.reached ? "var(--ink)" : "var(--strong)";
  const fill = station.reached ? "var(--ink)" : "var(--paper)";
  return (
    <svg
      viewBox="0 0 144 34"
      className="h-[34px] w-11 shrink-0 overflow-visible sm:mb-1 sm:w-36"
      preserveAspectRatio="xMinYMid slice"
      aria-hidden="true"
    >
      {!first && (
        <path
          d="M0 17h14"
          stroke={line}
          strokeWidth="3"
          strokeDasharray={station.reached ? undefined : "4 4"}
          className="hidden sm:block"
        />
      )}
      {!last && (
        <path
          d="M30 17h114"
          stroke={line}
          strokeWidth="3"
          strokeDasharray={station.reached ? undefined : "4 4"}
          className="hidden sm:block"
        />
      )}
      {station.type === "device" && (
        <rect x="8" y="6" width="22" height="22" rx="3" fill={fill} stroke={line} strokeWidth="3" />
      )}
      {station.type === "lead" && (
        <rect x="6" y="12" width="27" height="10" rx="5" fill={fill} stroke={line} strokeWidth="3" />
      )}
      {station.type === "loom" && <circle cx="19" cy="17" r="10" fill={fill} stroke={line} strokeWidth="3" />}
      {isBreak && <path d="M8 6l22 22M30 6L8 28" stroke="var(--stop)" strokeWidth="4.5" />}
    </svg>
  );
}
