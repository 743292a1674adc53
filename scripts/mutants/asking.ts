/** *Asking tests* whether they notice changes, in processes of their own; see `tests.mjs`. */
import { fork, type ChildProcess } from "node:child_process";
import { join } from "node:path";

/** A file of tests that is asked. */
export interface Asked {
  path: string;
  /** Names of its tests; null for all of them. */
  tests: readonly string[] | null;
  /** How long they take. */
  ms: number;
}

/** What a file's tests reach. */
export type Note =
  /** Of one test, or with a name of null of the file as it loads. */
  | { path: string; name: string | null; ms: number; reached: number[] }
  /** Reached when scripts that it shares with others were loaded, which happens once in a process. */
  | { path: string; first: number[] }
  /** It cannot be asked: a test of it fails without any change, where it is run more than once in a process. */
  | { path: string; fails: string };

interface Answer {
  /** The test that failed first; without a name where it is the file itself. */
  failed: { path: string; name: string } | null;
  notes: Note[];
}

/** A change that makes something run for ever is noticed as well: after so long, and so many times what the tests take. */
const PATIENCE_MS = 10_000;
const PATIENCE_TIMES = 6;
/** A process that has answered so many questions has kept enough. */
const MOST_QUESTIONS = 150;

/** One who asks, one question after the other. @param copy folder of the project with so many switches of changes */
export class Asker {
  #child: ChildProcess | null = null;
  #asked = 0;
  constructor(
    readonly copy: string,
    readonly switches: number,
    readonly packages: string,
  ) {}

  /** The first test of these files that fails with some changes; null where all pass. Those that never end are put as failing. */
  async ask(changes: readonly number[], files: readonly Asked[], anew = false): Promise<Answer["failed"]> {
    const patience = PATIENCE_MS + PATIENCE_TIMES * files.reduce((sum, { ms }) => sum + ms, 0);
    if (anew || this.#asked > MOST_QUESTIONS) this.close();
    const fresh = this.#child === null;
    const answer = await this.#told({ changes, files }, changes, patience);
    if (!answer) return { path: files[0].path, name: "" };
    const { failed } = answer;
    if (!failed || fresh) return failed;
    // What is kept from earlier changes may be what fails: so the one test again, which has to pass without any.
    const again = files.filter(({ path }) => path === failed.path);
    const one = failed.name === "" ? again : again.map((file) => ({ ...file, tests: [failed.name] }));
    const without = await this.#told({ changes: [], files: one }, [], patience);
    return without && !without.failed ? failed : this.ask(changes, one, true);
  }

  /** What all tests of some files reach without any change. */
  async reach(paths: readonly string[]): Promise<Note[]> {
    this.close();
    const files = paths.map((path) => ({ path, tests: null, ms: 0 }));
    const answer = await this.#told({ changes: [], files, reach: true }, [], 3_600_000);
    if (!answer) throw new Error("Tests do not end without any change.");
    return answer.notes;
  }

  close(): void {
    this.#child?.kill("SIGKILL");
    this.#child = null;
    this.#asked = 0;
  }

  async #told(question: object, changes: readonly number[], patience: number): Promise<Answer | null> {
    this.#asked++;
    const child = (this.#child ??= this.#started(changes));
    return new Promise((resolve) => {
      const end = (answer: Answer | null) => {
        clearTimeout(late);
        child.removeAllListeners();
        if (!answer) this.close();
        resolve(answer);
      };
      const late = setTimeout(() => end(null), patience);
      child.on("message", (message: Answer | "ready") => (message === "ready" ? child.send(question) : end(message)));
      child.on("exit", () => end(null));
      if (this.#asked > 1) child.send(question);
    });
  }

  /** Changes that bear on what scripts do as they load are switched on from the start. */
  #started(changes: readonly number[]): ChildProcess {
    const env = {
      ...process.env,
      SCRIPTS: join(this.copy, ".cache", "tests"),
      RUNNER: join(this.packages, "jest-light-runner"),
      SWITCHES: String(this.switches),
      CHANGES: changes.join(","),
    };
    const program = join(this.copy, "scripts", "mutants", "tests.mjs");
    const stdio = changes.length > 0 ? "ignore" : "inherit";
    return fork(program, { cwd: this.copy, env, stdio: [stdio, stdio, stdio, "ipc"], serialization: "json" });
  }
}
