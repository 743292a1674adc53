declare module "gltf-validator" {
  export interface Report {
    issues: { numErrors: number; numWarnings: number; messages: { severity: number; code: string; message: string }[] };
  }
  export function validateBytes(bytes: Uint8Array, options?: { maxIssues?: number }): Promise<Report>;
}
