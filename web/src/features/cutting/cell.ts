/** How the tables of the cut list are set. */
export const cell = {
  '& th': { textAlign: 'left', fontWeight: 600, fontSize: 12.5, color: 'text.secondary', pb: 0.5 },
  '& td': { py: 0.6, pr: 2, borderTop: 1, borderColor: 'divider', fontSize: 14 },
  width: '100%',
  borderCollapse: 'collapse',
}
