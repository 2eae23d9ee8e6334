import { FileText } from "lucide";
import { Form, Link, useFetcher, useNavigation, useParams, useSubmit } from "react-router";
import { useMoney } from "~/app/lib/money";
import type { Lane } from "~/core/connect/lane";
import type { Offer } from "~/core/fit/offer";
import { type ColourMeaning, colourKey } from "~/core/library/colours";
import type { JobState } from "~/core/log/entry";
import { allOf } from "~/core/model/labels";
import type { Choice } from "~/core/model/profile";
import { Focus } from "../bench/focus";
import { LaneDrawing } from "../connect/lane-drawing";
import { Button, buttonLook, Section } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Notice } from "../marks";
import { LEVEL_TONES } from "./candidates";

type Option = Choice["options"][number] & { follows: string[] };
type OpenChoice = Omit<Choice, "options"> & {
  chosen: string;
  usual: string;
  notUsual: string | null;
  options: Option[];
};

export interface Props {
  offer: Offer;
  colours: ColourMeaning[];
  choices: OpenChoice[];
  mayMakeUsual: boolean;
  isCurrent: boolean;
  confirmed: boolean;
  signed: JobState["signed"];
  why: { name: string; lane: Lane } | null;
  newer: number | null;
}

function conflictWords({ conflict, clash }: Pick<Offer, "conflict" | "clash">): string {
  const names = conflict.map((way) => way.givesUp.map((f) => f.name).join(" and "));
  return `${allOf(clash)} cannot be had together. Configure asks what the customer does without: ${names.join(", or ")}.`;
}

/** One kit on this car: its verdict, the button that takes it, and its choices. */
export function OfferFocus(props: Props) {
  const { offer, colours, choices, mayMakeUsual, isCurrent, confirmed, newer } = props;
  const { job } = useParams();
  const { next } = useJob();
  // While a preview is on its way, what is shown is not yet what was chosen.
  const previewing = useNavigation().state === "loading";
  const impossible = offer.verdict.level === "impossible";
  return (
    <Focus
      kicker={`${offer.work} · ${offer.maker}`}
      title={offer.title}
      actions={
        !impossible && (
          <>
            <EntryButton
              look={confirmed || next.stage !== "fit" ? "plain" : "next"}
              body={
                isCurrent
                  ? { kind: "fit.confirm", data: { choices: { ...offer.choices } } }
                  : { kind: "fit.kit", data: { kit: offer.pin, choices: { ...offer.choices } } }
              }
              disabled={confirmed || previewing}
              shortcut="Space"
            >
              {confirmed ? "Kit and choices are confirmed" : isCurrent ? "Confirm kit and choices" : "Choose this kit"}
            </EntryButton>
            <a
              href={`/jobs/${job}/offer.pdf?${offerAddress(offer)}`}
              className={buttonLook("plain")}
              target="_blank"
              rel="noreferrer"
            >
              <Icon of={FileText} size={18} /> Offer as PDF
            </a>
          </>
        )
      }
      picture={
        !impossible && (
          <Choices choices={choices} kit={offer.pin.slug} confirmed={confirmed} mayMakeUsual={mayMakeUsual} />
        )
      }
    >
      <Notice tone={offer.conflict.length > 0 ? "watch" : LEVEL_TONES[offer.verdict.level]} title={offer.verdict.text}>
        {offer.missing.length > 0 && <p>No position of the switch bank gives: {offer.missing.join(", ")}.</p>}
        {offer.conflict.length > 0 && <p>{conflictWords(offer)}</p>}
      </Notice>
      {newer && (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <p className="text-quiet">
            This job keeps version {offer.pin.version}; the library has version {newer} of this kit.{" "}
            <Link to={`/library/kit/${offer.pin.slug}?version=${newer}`} className="underline">
              What it changed
            </Link>
          </p>
          <EntryButton
            body={{
              kind: "fit.kit",
              data: { kit: { slug: offer.pin.slug, version: newer }, choices: { ...offer.choices } },
            }}
          >
            Move this job to version {newer}
          </EntryButton>
        </div>
      )}
      {!impossible && <Colours colours={colours} kit={offer.pin.slug} />}
    </Focus>
  );
}

/** The offer with its choices as a query of an address. */
export function offerAddress(offer: Offer): URLSearchParams {
  return new URLSearchParams({ kit: offer.pin.slug, ...offer.choices });
}

/** Why a function does not come with this kit: its lane with the first hop that fails. */
export function WhyNot({ why }: { why: NonNullable<Props["why"]> }) {
  return (
    <Focus kicker="Where the signal stops" title={`Why not: ${why.name}`}>
      <LaneDrawing lane={why.lane} />
    </Focus>
  );
}

/** What makes up the offer, then the ways of working that change nothing for the customer. */
function Choices({
  choices,
  kit,
  confirmed,
  mayMakeUsual,
}: {
  choices: OpenChoice[];
  kit: string;
  confirmed: boolean;
  mayMakeUsual: boolean;
}) {
  const submit = useSubmit();
  if (choices.length === 0) return null;
  const group = (kind: Choice["kind"]) => choices.filter((c) => c.kind === kind);
  return (
    <Section title="Choices" id="choices" aside={confirmed ? "Confirmed" : "Preview, not confirmed"}>
      <Form
        key={kit}
        onChange={(e) => submit(e.currentTarget, { replace: true, preventScrollReset: true })}
        className="space-y-5"
      >
        <input type="hidden" name="kit" value={kit} />
        {group("offer").length > 0 && (
          <div className="grid gap-x-8 gap-y-4 2xl:grid-cols-2">
            {group("offer").map((c) => (
              <ChoiceField key={c.id} choice={c} />
            ))}
          </div>
        )}
        {group("method").length > 0 && (
          <details open={group("offer").length === 0 || undefined}>
            <summary className="min-h-11 cursor-pointer py-2.5 font-medium">
              Ways of working:{" "}
              {group("method")
                .map((c) => c.options.find((o) => o.id === c.chosen)?.label)
                .join(", ")}
            </summary>
            <div className="grid gap-x-8 gap-y-4 pt-2 2xl:grid-cols-2">
              {group("method").map((c) => (
                <ChoiceField key={c.id} choice={c} usualButton={mayMakeUsual && c.chosen !== c.usual} />
              ))}
            </div>
          </details>
        )}
      </Form>
    </Section>
  );
}

function ChoiceField({ choice: c, usualButton = false }: { choice: OpenChoice; usualButton?: boolean }) {
  const price = useMoney();
  return (
    <fieldset>
      <legend className="font-medium">{c.label}</legend>
      {c.notUsual && <p className="text-watch">{c.notUsual}</p>}
      {c.options.map((o) => (
        <label key={o.id} className="flex min-h-11 gap-3 py-2">
          <input
            type="radio"
            name={c.id}
            value={o.id}
            defaultChecked={o.id === c.chosen}
            className="mt-1 size-5 shrink-0 accent-[var(--ink)]"
          />
          <span>
            <span className="font-medium">{o.label}</span>
            {o.id === c.usual && <span className="text-quiet"> (usual)</span>}
            {(o.price || o.minutes) && (
              <span className="num text-sm text-quiet">
                {" "}
                {[
                  o.price ? `${o.price > 0 ? "+" : ""}${price(o.price)}` : "",
                  o.minutes ? `${signed(o.minutes)} min` : "",
                ]
                  .filter(Boolean)
                  .join(", ")}
              </span>
            )}
            <span className="block text-quiet">{o.why}</span>
            {o.id === c.chosen && o.follows.length > 0 && (
              <span className="block text-sm">Follows from it: {o.follows.join("; ")}.</span>
            )}
          </span>
        </label>
      ))}
      {usualButton && <MakeUsual choice={c.id} option={c.chosen} />}
    </fieldset>
  );
}

/** The shop takes this option from now on when nobody says otherwise. */
function MakeUsual({ choice, option }: { choice: string; option: string }) {
  const fetcher = useFetcher();
  return (
    <Button
      look="quiet"
      className="px-2!"
      onClick={() => fetcher.submit({ choice, option }, { method: "post", action: "/usual" })}
      disabled={fetcher.state !== "idle"}
    >
      Make this the shop's usual way
    </Button>
  );
}

function signed(n: number): string {
  return n > 0 ? `+${n}` : `−${-n}`;
}

/** Wire colours of this kit that mean something else in another kit of the shop. */
function Colours({ colours, kit }: { colours: ColourMeaning[]; kit: string }) {
  if (colours.length === 0) return null;
  return (
    <Notice tone="watch" title="Go by the function, not by the colour">
      <ul className="space-y-1">
        {colours.map((m) => {
          const here = m.uses.filter((u) => u.kit === kit);
          const elsewhere = m.uses.filter((u) => u.kit !== kit && !here.some((h) => h.job === u.job));
          const jobs = [...new Set(elsewhere.map((u) => u.job))];
          const kits = new Set(elsewhere.map((u) => u.kit)).size;
          return (
            <li key={`${m.base}/${m.tracer}`}>
              {`${here.map((u) => u.job).join(", ")}: here ${m.base}${m.tracer && ` with ${m.tracer} tracer`}; that colour is `}
              {jobs.join(" or ")} in{" "}
              <Link to={`/library/colours#${colourKey(m)}`} className="underline">
                {kits === 1 ? elsewhere[0]?.title : `${kits} other kits`}
              </Link>
              .
            </li>
          );
        })}
      </ul>
    </Notice>
  );
}
