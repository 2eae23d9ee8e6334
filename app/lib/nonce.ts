import { createContext } from "react";

/** The nonce of the page being rendered; empty in the browser, where it is no longer needed. */
export const NonceContext = createContext("");
