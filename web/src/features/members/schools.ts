/** How much thread shows as built: shops disagree, so each is there with its trade-off. */
export const SCHOOLS = [
  {
    key: 'centred',
    label: 'centred',
    trade: 'Equal travel in and out. More bare thread shows, and the bare shank is the weak point.',
  },
  {
    key: 'buried',
    label: 'buried',
    trade: 'Only a couple of threads show: strongest, but it hardly screws in any further.',
  },
  { key: 'exposure', label: 'fixed', trade: 'A set length of thread shows at each end, the same on every link.' },
] as const
