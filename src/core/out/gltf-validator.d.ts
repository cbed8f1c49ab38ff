declare module "gltf-validator" {
	/** Severity 0 is an error, 1 a warning. */
	export function validateBytes(
		bytes: Uint8Array,
		options?: { maxIssues?: number },
	): Promise<{ issues: { messages: { code: string; message: string; severity: number; pointer?: string }[] } }>;
}
