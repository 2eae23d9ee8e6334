import { getFormProps, getInputProps, getTextareaProps, type SubmissionResult, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { useState } from "react";
import { Form, useNavigation } from "react-router";
import type { CarSheet } from "~/core/job/entry";
import { entryId } from "~/core/job/entry-id";
import { Button, Field, Section } from "../controls";
import { useJob } from "../entry-form";
import { Notice } from "../marks";
import { FaultList, FirmwareRead, ReadStandIn } from "./car-readings";
import { IdentificationPanel } from "./identification-panel";
import { carFormSchema } from "./schema";

interface Props {
  sheet: CarSheet;
  basedOn: string | null;
  patterns: { pattern: string; says: string }[];
  years: { from: number; to: number };
  thisYear: number;
  /** How this radio writes its version, and the versions the update list knows. */
  written: string[];
  versions: string[];
  standIn: boolean;
  answer?: { reply: SubmissionResult; theirs: { by: string; sheet: CarSheet; entry: string } | null };
}

/** The car as it came in. The identification number is decoded while it is typed. */
export function CarSheetForm(props: Props) {
  const { sheet, basedOn, patterns, years, thisYear, answer } = props;
  const { seed, readOnly } = useJob();
  const busy = useNavigation().state === "submitting";
  // The form stays based on what this person saw when it was opened, even if the page's data were renewed since.
  const [opened] = useState({ basedOn, seed });
  const [typed, setTyped] = useState(sheet.identification);
  const [firmware, setFirmware] = useState(sheet.firmware);
  const [codes, setCodes] = useState(sheet.faultCodes);
  const [form, fields] = useForm({
    id: `car-${opened.basedOn ?? "new"}`,
    lastResult: answer?.reply,
    defaultValue: { ...sheet, odometerKm: sheet.odometerKm === null ? "" : String(sheet.odometerKm) },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: carFormSchema }),
  });
  const saved = basedOn !== null && basedOn !== opened.basedOn && !answer?.theirs;
  const base = saved ? basedOn : opened.basedOn;
  return (
    <Section title="The car" id="car" aside={sheet.identification ? "Saved" : "Not saved yet"}>
      <Form method="post" {...getFormProps(form)} className="grid gap-x-8 gap-y-4 md:grid-cols-2">
        <input type="hidden" name="entry" value={entryId(seed, `car-${base}-${opened.seed}`)} />
        {base && <input type="hidden" name="basedOn" value={answer?.theirs ? answer.theirs.entry : base} />}
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
            <Field label="Odometer, km" errors={fields.odometerKm.errors}>
              {(ids) => (
                <input
                  {...getInputProps(fields.odometerKm, { type: "text" })}
                  {...ids}
                  inputMode="numeric"
                  className="field num mt-1"
                  autoComplete="off"
                />
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
          {props.standIn && (
            <ReadStandIn
              onRead={(text) => {
                form.update({ name: fields.faultCodes.name, value: text });
                setCodes(text);
              }}
            />
          )}
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
    </Section>
  );
}

const LABELS: Record<keyof CarSheet, string> = {
  identification: "Identification number",
  plate: "Plate",
  odometerKm: "Odometer",
  firmware: "Radio firmware",
  faultCodes: "Fault codes before",
  note: "Note",
};

/** The other person's sheet, so that nothing is overwritten unseen. */
function Theirs({ by, sheet }: { by: string; sheet: CarSheet }) {
  return (
    <>
      <p>{by} saved:</p>
      <dl className="mt-1 text-sm">
        {(Object.keys(LABELS) as (keyof CarSheet)[]).map((key) => (
          <div key={key} className="flex gap-2">
            <dt className="text-quiet">{LABELS[key]}</dt>
            <dd className="num">{sheet[key] || "–"}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
