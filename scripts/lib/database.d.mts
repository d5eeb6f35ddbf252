/** Settings of a cluster's one account, and how it is ended. */
export interface RunningDatabase {
  readonly connection: {
    readonly host: string;
    readonly port: number;
    readonly user: string;
    readonly password: string;
  };
  readonly pid: number;
  stop(): Promise<void>;
}

export function startDatabase(options: {
  readonly projectDir: string;
  readonly name: string;
  readonly firstPort: number;
  readonly durable?: boolean;
  readonly say: (line: string) => void;
}): Promise<RunningDatabase>;
