import { useState } from "react";
import type { PartPhoto } from "~/core/model/types";

export const PHOTO_OF: Readonly<Record<PartPhoto["of"], string>> = { part: "Part", plug: "Plug", label: "Label" };

/** Photos of a part as its document has them; a press shows one large. */
export function PartPhotos({ photos, name }: { photos: readonly PartPhoto[]; name: string }) {
  return (
    <ul className="flex flex-wrap gap-3">
      {photos.map((photo) => (
        <li key={photo.sha256}>
          <PartPhotoView photo={photo} name={name} />
        </li>
      ))}
    </ul>
  );
}

export function PartPhotoView({
  photo,
  name,
  caption = photo.say ?? PHOTO_OF[photo.of],
}: {
  photo: PartPhoto;
  name: string;
  caption?: string;
}) {
  const [lost, setLost] = useState(false);
  const words = [`${PHOTO_OF[photo.of]}: ${name}`, photo.say].filter(Boolean).join(", ");
  if (lost) return <p className="max-w-40 text-sm text-quiet">{words}: the library of this shop does not have it.</p>;
  return (
    <a href={`/library/photos/${photo.sha256}`} target="_blank" rel="noreferrer" className="block w-40">
      <img
        src={`/library/photos/${photo.sha256}`}
        alt={words}
        loading="lazy"
        className="h-28 w-40 rounded-[3px] border border-rule bg-raised object-contain"
        onError={() => setLost(true)}
      />
      <span className="block text-sm">{caption}</span>
    </a>
  );
}
