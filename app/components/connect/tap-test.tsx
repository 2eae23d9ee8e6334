import { tapOrientation } from "~/core/power/fuse";
import { Focus } from "../bench/focus";
import { EntryButton } from "../entry-form";
import { Notice } from "../marks";

/** The one test that tells which way round a tap sits. */
export function TapTest({ lit }: { lit: boolean | null }) {
  const verdict = lit === null ? null : tapOrientation(lit);
  return (
    <Focus kicker="Tap in the fuse panel" title="Is the tap the right way round?">
      <p className="text-quiet">Tap in, key on, original fuse out, added fuse in: the tester on the new branch is</p>
      <p className="mt-1 flex gap-2">
        {([true, false] as const).map((answer) => (
          <EntryButton
            key={`${answer}`}
            body={{ kind: "connect.tap", data: { lit: answer } }}
            pressed={lit === answer}
            label={`New branch with the original fuse out: ${answer ? "Lit" : "Dark"}`}
          >
            {answer ? "Lit" : "Dark"}
          </EntryButton>
        ))}
      </p>
      {verdict && (
        <div className="mt-2">
          <Notice
            tone={verdict.right ? "good" : "stop"}
            title={verdict.right ? "Right way round" : "Turn the tap round"}
          >
            <p>{verdict.say}</p>
          </Notice>
        </div>
      )}
    </Focus>
  );
}
