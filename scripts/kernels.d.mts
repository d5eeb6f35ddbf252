export function compileKernels(): Promise<string>;
