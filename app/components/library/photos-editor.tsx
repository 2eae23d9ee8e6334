import { Camera, Trash2 } from "lucide";
import { useRef, useState } from "react";
import { smallPhoto } from "~/app/lib/small-photo";
import type { PartPhoto } from "~/core/model/types";
import { Button, buttonLook } from "../controls";
import { Icon } from "../icon";
import { PartPhotoView, PHOTO_OF } from "./part-photos";

const KINDS: readonly [PartPhoto["of"], string][] = [
  ["part", "Photo of the part"],
  ["plug", "Photo of a plug"],
  ["label", "Photo of the label"],
];

/** Photos of a part: taken or chosen, told what they show, taken away. */
export function PhotosEditor({
  photos,
  name,
  onChange,
}: {
  photos: readonly PartPhoto[];
  /** Of the part. */
  name: string;
  onChange(photos: PartPhoto[]): void;
}) {
  const [problem, setProblem] = useState("");
  const [sending, setSending] = useState(false);
  const present = useRef(photos);
  present.current = photos;
  // Sent, and perhaps not among the photos yet: of two that are sent at once both are kept.
  const sent = useRef<PartPhoto[]>([]);
  sent.current = sent.current.filter((s) => !photos.some((p) => p.sha256 === s.sha256));
  async function add(of: PartPhoto["of"], file: File) {
    setSending(true);
    const answer = await send(file);
    setSending(false);
    setProblem(answer.ok ? "" : answer.message);
    if (!answer.ok) return;
    if ([...present.current, ...sent.current].some((p) => p.sha256 === answer.sha256)) return;
    sent.current = [...sent.current, { of, sha256: answer.sha256 }];
    onChange([...present.current, ...sent.current]);
  }
  return (
    <fieldset>
      <legend className="font-medium">
        Photos <span className="num text-sm font-normal text-quiet">{photos.length}</span>
      </legend>
      <ul className="my-2 flex flex-wrap gap-4">
        {photos.map((photo, i) => (
          <li key={photo.sha256} className="w-40">
            <PartPhotoView photo={photo} name={name} caption={PHOTO_OF[photo.of]} />
            <input
              className="field mt-1 text-sm"
              aria-label={`What photo ${i + 1} shows`}
              placeholder="what it shows"
              maxLength={200}
              value={photo.say ?? ""}
              onChange={(e) => {
                const say = e.currentTarget.value;
                onChange(photos.map((p) => (p !== photo ? p : { of: p.of, sha256: p.sha256, ...(say && { say }) })));
              }}
            />
            <Button look="quiet" className="px-0!" onClick={() => onChange(photos.filter((p) => p !== photo))}>
              <Icon of={Trash2} size={16} /> Remove
            </Button>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        {KINDS.map(([of, words]) => (
          <label
            key={of}
            className={`${buttonLook("plain")} cursor-pointer focus-within:outline-3 focus-within:outline-accent`}
          >
            <Icon of={Camera} size={18} /> {words}
            <input
              type="file"
              accept="image/*"
              className="sr-only"
              disabled={sending}
              onChange={(e) => {
                const file = e.currentTarget.files?.[0];
                e.currentTarget.value = "";
                if (file) void add(of, file);
              }}
            />
          </label>
        ))}
      </div>
      <p aria-live="polite" className={problem ? "mt-1 text-stop" : "mt-1 text-sm text-quiet"}>
        {sending ? "Sending ..." : problem}
      </p>
    </fieldset>
  );
}

type Answer = { ok: true; sha256: string } | { ok: false; message: string };

async function send(file: File): Promise<Answer> {
  const form = new FormData();
  form.set("photo", await smallPhoto(file), "photo");
  try {
    const answer = await fetch("/library/photos", { method: "POST", body: form });
    return (await answer.json()) as Answer;
  } catch {
    return { ok: false, message: "There is no connection, or the session has ended. The document stays; try again." };
  }
}
