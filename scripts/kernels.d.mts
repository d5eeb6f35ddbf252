export function compileKernels(): Promise<string>;
export function describeKernels(): Promise<string>;
