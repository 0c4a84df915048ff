/** A size in bytes as people read it, "12.3 MB". */
export const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`
