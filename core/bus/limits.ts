/** Largest bus file that is taken: about an hour and a half of a busy bus as text. */
export const BUS_FILE_LIMIT_BYTES = 64_000_000;
