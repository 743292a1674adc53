export const ROOT: string;
export function chromiumPath(): string | null;
export function run(command: string, args: readonly string[], options?: object): void;
export function ensurePackages(quiet?: boolean): void;
export function ensureBuild(): void;
export function bundleCommandLine(): string;
export function ensureChromium(): Promise<void>;
export function freePort(): Promise<number>;
