import type { OutputProof } from "~/core/bus/translation/proof";
import type { Outside, PinnedDocument, PinnedKind } from "~/core/job/job";
import type { DocumentPin } from "~/core/log/kinds/fit/kit";
import type { StoredFile } from "~/db/files";

/**
 * What a job knows of the shop around it. It only grows, by things that never change: a version of a document, a
 * complete file. So jobs of different versions may share one.
 */
export class Shelf implements Outside {
  private readonly documents = new Map<string, PinnedDocument>();
  private readonly files = new Map<string, StoredFile>();
  private readonly wishes = new Map<string, string>();
  private readonly proofs = new Map<string, readonly OutputProof[] | "same content">();

  constructor(readonly currency: string) {}

  document(kind: PinnedKind, pin: DocumentPin) {
    return this.documents.get(`${kind} ${pin.slug} ${pin.version}`) ?? null;
  }

  file = (id: string) => this.files.get(id) ?? null;

  proof(key: string) {
    return this.proofs.get(key) ?? null;
  }

  putProof(key: string, proof: readonly OutputProof[] | "same content") {
    this.proofs.set(key, proof);
  }

  wish(id: string) {
    return this.wishes.get(id) ?? null;
  }

  putDocument(profile: PinnedDocument) {
    this.documents.set(`${profile.document} ${profile.id} ${profile.version}`, profile);
  }

  putFile(file: StoredFile) {
    this.files.set(file.id, file);
  }

  putWishes(wishes: readonly { id: string; name: string }[]) {
    for (const w of wishes) this.wishes.set(w.id, w.name);
  }
}
