/** Largest bus file that is taken, compressed: about thirty million frames of a text log. */
export const BUS_FILE_LIMIT_BYTES = 256_000_000;
/** The same, when it is unpacked. */
export const BUS_FILE_PLAIN_LIMIT_BYTES = 2_000_000_000;
/** A file is sent in pieces of at most so many bytes. */
export const PIECE_BYTES = 2_000_000;
/** Rate of a bus until the person says otherwise; most body buses run at it (common practice). */
export const USUAL_BITS_PER_S = 500_000;
