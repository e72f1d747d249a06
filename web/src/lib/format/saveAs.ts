/** Hand content to the browser to be saved under a name. */
export function saveAs(content: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}
