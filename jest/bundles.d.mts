export function bundleTests(root: string, folder: string): Promise<void>;
