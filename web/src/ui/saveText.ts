/** Hand a text to the person as a file. */
export function saveText(text: string, name: string) {
  const address = URL.createObjectURL(new Blob([text], { type: 'text/csv' }))
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
  URL.revokeObjectURL(address)
}
