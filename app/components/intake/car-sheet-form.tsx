import {
  getFormProps,
  getInputProps,
  getSelectProps,
  getTextareaProps,
  type SubmissionResult,
  useForm,
} from "@conform-to/react";
import { useEffect, useRef, useState } from "react";
import { Form, useNavigation } from "react-router";
import { entryId } from "~/core/job/entry-id";
import { CAR_LABELS, type CarField, type CarSheet } from "~/core/log/kinds/intake/car";
import type { Unread } from "~/core/log/kinds/intake/unread";
import { Focus } from "../bench/focus";
import { Button, Field } from "../controls";
import { useJob } from "../entry-form";
import { Notice } from "../marks";
import { FaultList, FirmwareRead, ReadStandIn, TakeScan } from "./car-readings";
import { checking } from "./checking";
import { IdentificationPanel } from "./identification-panel";
import { NotReadable } from "./not-readable";

interface Props {
  sheet: CarSheet;
  /** Somebody has written on the sheet already. */
  begun: boolean;
  unread: { what: Unread; reason: string; entry: string }[];
  scanned: { text: string; at: string } | null;
  patterns: { pattern: string; says: string }[];
  years: { from: number; to: number };
  thisYear: number;
  /** How this radio writes its version, and the versions the update list knows. */
  written: string[];
  versions: string[];
  standIn: boolean;
  /** What cars of this market show. */
  usualUnit: "km" | "mi";
  answer?: {
    reply: SubmissionResult;
    saved: CarSheet | null;
    theirs: { by: string; sheet: Partial<CarSheet> } | null;
  };
}

/** The car as it came in. Fields that nobody has touched here follow what others save. */
export function CarSheetForm(props: Props) {
  const { sheet } = props;
  const [shown, setShown] = useState({ sheet, round: 0 });
  const touched = useRef(false);
  useEffect(() => {
    if (!touched.current) setShown((s) => (sameSheet(s.sheet, sheet) ? s : { sheet, round: s.round + 1 }));
  }, [sheet]);
  return (
    <SheetForm
      key={shown.round}
      {...props}
      sheet={shown.sheet}
      onTouch={(now) => {
        touched.current = now;
      }}
    />
  );
}

function sameSheet(a: CarSheet, b: CarSheet): boolean {
  return (Object.keys(a) as CarField[]).every((f) => a[f] === b[f]);
}

/** One filling of the form. The identification number is decoded while it is typed. */
function SheetForm(props: Props & { onTouch(touched: boolean): void }) {
  const { sheet, patterns, years, thisYear, answer, onTouch } = props;
  const { seed, readOnly } = useJob();
  const busy = useNavigation().state === "submitting";
  // What this person saw in each field when it was last in step with the log.
  const [opened, setOpened] = useState(sheet);
  const [typed, setTyped] = useState(sheet.identification);
  const [firmware, setFirmware] = useState(sheet.firmware);
  const [codes, setCodes] = useState(sheet.faultCodes);
  useEffect(() => {
    if (answer?.saved) {
      setOpened(answer.saved);
      onTouch(false);
    }
    if (answer?.theirs) setOpened((o) => ({ ...o, ...answer.theirs?.sheet }));
  }, [answer, onTouch]);
  const [odometer = "", unit] = sheet.odometer.split(" ");
  const check = useCheck();
  const [form, fields] = useForm({
    id: "car-sheet",
    lastResult: answer?.reply.status === "error" ? answer.reply : undefined,
    defaultValue: { ...sheet, odometer, odometerUnit: unit ?? props.usualUnit },
    ...(check ? { onValidate: ({ formData }: { formData: FormData }) => check(formData) } : {}),
  });
  const seen = JSON.stringify(opened);
  const fillCodes = (text: string) => {
    form.update({ name: fields.faultCodes.name, value: text });
    setCodes(text);
  };
  return (
    <Focus kicker={props.begun ? "Saved" : "Not saved yet"} title="The car">
      <Form
        method="post"
        {...getFormProps(form)}
        onInput={() => onTouch(true)}
        className="grid gap-x-8 gap-y-4 md:grid-cols-2"
      >
        <input type="hidden" name="entry" value={entryId(seed, `car-${seen}`)} />
        <input type="hidden" name="opened" value={seen} />
        <div className="space-y-4">
          <Field
            label="Identification number"
            hint="17 characters, as on the plate behind the windscreen."
            errors={fields.identification.errors}
          >
            {(ids) => (
              <input
                {...getInputProps(fields.identification, { type: "text" })}
                {...ids}
                className="field num mt-1 uppercase tracking-wider"
                autoComplete="off"
                autoCapitalize="characters"
                spellCheck={false}
                maxLength={24}
                onChange={(e) => setTyped(e.currentTarget.value)}
              />
            )}
          </Field>
          <NotReadable what="identification" unread={props.unread} empty={typed === ""} />
        </div>
        <div className="md:col-start-2 md:row-span-2 md:row-start-1">
          <IdentificationPanel typed={typed} patterns={patterns} years={years} thisYear={thisYear} />
        </div>
        <div className="space-y-4 md:col-start-1">
          <div className="grid grid-cols-2 gap-4">
            <Field label="Plate" errors={fields.plate.errors}>
              {(ids) => (
                <input
                  {...getInputProps(fields.plate, { type: "text" })}
                  {...ids}
                  className="field num mt-1"
                  autoComplete="off"
                />
              )}
            </Field>
            <Field label="Odometer" errors={fields.odometer.errors}>
              {(ids) => (
                <span className="mt-1 flex gap-2">
                  <input
                    {...getInputProps(fields.odometer, { type: "text" })}
                    {...ids}
                    inputMode="numeric"
                    className="field num min-w-0"
                    autoComplete="off"
                  />
                  <select {...getSelectProps(fields.odometerUnit)} aria-label="km or mi" className="field w-auto">
                    <option value="km">km</option>
                    <option value="mi">mi</option>
                  </select>
                </span>
              )}
            </Field>
          </div>
          <Field
            label="Radio firmware"
            hint="As the part label or the version screen writes it."
            errors={fields.firmware.errors}
          >
            {(ids) => (
              <input
                {...getInputProps(fields.firmware, { type: "text" })}
                {...ids}
                className="field num mt-1"
                autoComplete="off"
                onChange={(e) => setFirmware(e.currentTarget.value)}
              />
            )}
          </Field>
          <NotReadable what="firmware" unread={props.unread} empty={firmware === ""} />
          <FirmwareRead text={firmware} written={props.written} versions={props.versions} />
          <Field
            label="Fault codes before"
            hint="Typed or pasted: lines, a table with a header, or JSON."
            errors={fields.faultCodes.errors}
          >
            {(ids) => (
              <textarea
                {...getTextareaProps(fields.faultCodes)}
                {...ids}
                rows={3}
                className="field num mt-1"
                onChange={(e) => setCodes(e.currentTarget.value)}
              />
            )}
          </Field>
          <div className="flex flex-wrap gap-2">
            {props.standIn && <ReadStandIn onRead={fillCodes} />}
            <TakeScan scanned={props.scanned} onRead={fillCodes} />
            <NotReadable what="faultCodes" unread={props.unread} empty={codes === ""} />
          </div>
          <FaultList text={codes} />
          <Field label="Note" errors={fields.note.errors}>
            {(ids) => <textarea {...getTextareaProps(fields.note)} {...ids} rows={2} className="field mt-1" />}
          </Field>
          {form.errors && (
            <Notice tone="stop" title={form.errors.join(" ")} live>
              {answer?.theirs && <Theirs by={answer.theirs.by} sheet={answer.theirs.sheet} />}
            </Notice>
          )}
          <Button type="submit" disabled={busy || readOnly} className="w-full sm:w-auto">
            {busy ? "Saving ..." : answer?.theirs ? "Save mine over it" : "Save the car"}
          </Button>
        </div>
      </Form>
    </Focus>
  );
}

/** The check of the sheet while it is typed comes after the page; until then the server alone checks. */
function useCheck(): typeof import("./check-sheet").checkSheet | null {
  const [check, setCheck] = useState<typeof import("./check-sheet").checkSheet | null>(null);
  useEffect(() => {
    void checking().then((m) => setCheck(() => m.checkSheet));
  }, []);
  return check;
}

/** What the other person wrote in the same fields, so that nothing is overwritten unseen. */
function Theirs({ by, sheet }: { by: string; sheet: Partial<CarSheet> }) {
  return (
    <>
      <p>{by} saved:</p>
      <dl className="mt-1 text-sm">
        {(Object.keys(sheet) as CarField[]).map((key) => (
          <div key={key} className="flex gap-2">
            <dt className="text-quiet">{CAR_LABELS[key]}</dt>
            <dd className="num">{sheet[key] || "–"}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
