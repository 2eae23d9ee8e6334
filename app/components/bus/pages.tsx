import { useParams } from "react-router";
import { SubPages } from "../bench/sub-pages";

/** The pages of Bus. */
export function BusPages() {
  const { job } = useParams();
  const bus = `/jobs/${job}/bus`;
  return (
    <SubPages
      pages={[
        { to: bus, name: "What is on it" },
        { to: `${bus}/hunt`, name: "Find signals" },
        { to: `${bus}/translation`, name: "Translation" },
      ]}
    />
  );
}
