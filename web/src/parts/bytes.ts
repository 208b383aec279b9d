/** How sizes are written everywhere: 3 KB, 4.2 MB, 120 MB, 1.5 GB. */
export const sized = (bytes: number) =>
  bytes < 1048576
    ? `${Math.ceil(bytes / 1024)} KB`
    : bytes < 1073741824
      ? `${(bytes / 1048576).toFixed(bytes < 10485760 ? 1 : 0)} MB`
      : `${(bytes / 1073741824).toFixed(1)} GB`
