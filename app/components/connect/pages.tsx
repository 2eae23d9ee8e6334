import { useParams } from "react-router";
import { SubPages } from "../bench/sub-pages";
import { Mark } from "../marks";

/** The pages of Connect. */
export function ConnectPages({ short = 0 }: { short?: number }) {
  const { job } = useParams();
  const connect = `/jobs/${job}/connect`;
  return (
    <SubPages
      pages={[
        { to: connect, name: "Plugs" },
        { to: `${connect}/feed`, name: "Feed and power" },
        {
          to: `${connect}/lengths`,
          name: (
            <>
              Places and lengths
              {short > 0 && <Mark tone="stop">{short === 1 ? "1 lead too short" : `${short} leads too short`}</Mark>}
            </>
          ),
        },
        { to: `${connect}/system`, name: "Whole system" },
      ]}
    />
  );
}
