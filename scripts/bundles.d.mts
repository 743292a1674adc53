export function bundleScripts(entries: readonly string[], folder: string): Promise<void>;
