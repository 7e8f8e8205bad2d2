/** Saves a text made in the browser as a file. */
export function saveFile(name: string, text: string, type: string) {
  const address = URL.createObjectURL(new Blob([text], { type: `${type};charset=utf-8` }));
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}
