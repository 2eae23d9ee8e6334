/** One thing to do in the order of the whole job. */
import type { ConnectTask } from "../../connect/connection-plan";
import type { Stage } from "../../log/stages";
import type { KitSetting } from "../../model/profile";
import type { Round } from "../../prove/rounds";
import type { Test } from "../../prove/tests";
import type { Task } from "../../strip/route";
import type { Connection } from "../plan";

/** What a person does: where it can be done with one hand it says with what, else it is done on its page. */
export type Does =
  | { kind: "step"; task: Task; direction: "in" | "back" }
  | { kind: "task"; task: ConnectTask }
  | { kind: "plug"; connection: Connection; task: ConnectTask | undefined }
  | { kind: "lock"; connection: Connection }
  | { kind: "setting"; set: KitSetting }
  | { kind: "bank" }
  | { kind: "powerCycle"; step: "out" | "in" }
  | { kind: "test"; test: Test; round: Round }
  | { kind: "codes" }
  | { kind: "laidOut" }
  | { kind: "page" };

export interface Act {
  stage: Stage;
  action: string;
  why: string;
  /** A page of the stage beside its main one. */
  page?: "feed" | "lengths";
  /** How far the job is, where that is not the stage of the act. */
  reached?: Stage;
  /** The thing on its surface that it is about, by its identifier there. */
  at?: string;
  does: Does;
  /** Usual minutes of work. */
  minutes: number;
}

/** What has to be done on its own page, with more than one hand. */
export const onPage = (act: Omit<Act, "does" | "minutes">, minutes = 1): Act => ({
  ...act,
  does: { kind: "page" },
  minutes,
});
