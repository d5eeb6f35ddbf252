export interface FormatDefinition {
  readonly id: string;
  readonly title: string;
  readonly extension: string;
  readonly mimeType: string;
  /** What it is made from. Writing itself is a codec of the host: bytes are not core's business. */
  readonly accepts: 'pixels' | 'paths';
}

export const defineFormat = (d: FormatDefinition): FormatDefinition => d;
