import pino from "pino";

export const log = pino({ level: process.env.ITERON_LOG ?? "warn" });
