import type { Design } from '../api'

const UNIT = /_(mm|deg|kg|n|nm|nmm|mpa|kpa|percent|m_s|s|hz|n_per_mm|n_per_mm3|nm_per_deg|nmm_per_deg)$/

/** Where a field stands, in a person's words: ends and parts by their names, the rest as it is spelt, without its unit. */
export function where(path: string, design?: Pick<Design, 'ends' | 'parts'>): string {
  const steps = path.replace(/^design\./, '').split('.')
  const words: string[] = []
  for (let i = 0; i < steps.length; i++) {
    const step = steps[i] ?? ''
    const list = step === 'ends' ? design?.ends : step === 'parts' ? design?.parts : undefined
    const named = list?.[Number(steps[i + 1])]
    if (named) {
      words.push(named.name)
      i += 1
    } else if (/^\d+$/.test(step)) words.push(String(Number(step) + 1))
    else if (step !== 'end' || i + 1 === steps.length) words.push(step.replace(UNIT, '').replaceAll('_', ' '))
  }
  return words.filter(Boolean).join(', ')
}
