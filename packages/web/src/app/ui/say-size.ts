/** Bytes as people say them: "812 B", "34 kB", "1.2 MB". */
export function saySize(bytes: number): string {
  return bytes < 1024 ? `${bytes} B` : bytes < 1_048_576 ? `${Math.round(bytes / 1024)} kB` : `${(bytes / 1_048_576).toFixed(1)} MB`;
}
