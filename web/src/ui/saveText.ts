/** Hand a file to the person. */
export function saveFile(content: BlobPart, media: string, name: string) {
  const address = URL.createObjectURL(new Blob([content], { type: media }))
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
  URL.revokeObjectURL(address)
}

/** Hand a text to the person as a file. */
export const saveText = (text: string, name: string, media = 'text/csv') => saveFile(text, media, name)

/** A title within a line: its first letter small, names in it as they are. */
export const sentence = (title: string) => title.charAt(0).toLowerCase() + title.slice(1)

/** A name as it stands in a file's name. */
export const fileName = (name: string) => name.toLowerCase().replace(/[^a-z0-9]+/g, '-')
