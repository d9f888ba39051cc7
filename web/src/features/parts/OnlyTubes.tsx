import { Autocomplete, Box, Button, TextField, Typography } from '@mui/material'
import { useMutation, useQuery } from '@tanstack/react-query'
import { answer, api } from '../../api'
import { useSessionPart, useTheSession } from '../../app/session'
import { Problem } from '../../ui'

/** Which sizes a search may return: all of the catalogue, some, or those that stand on the rack. */
export function OnlyTubes() {
  const session = useTheSession()
  const only = useSessionPart((state) => state.design.settings.search.only_tubes)
  const catalogue = useQuery({
    queryKey: ['catalogue'],
    queryFn: () => answer(api.GET('/api/catalogue')),
    staleTime: 60_000,
  })
  const set = (keys: string[]) =>
    session.edit('only these sizes', (now) => ({
      ...now,
      settings: { ...now.settings, search: { ...now.settings.search, only_tubes: keys } },
    }))
  const rack = useMutation({
    mutationFn: () => answer(api.GET('/api/rack/tubes')),
    onSuccess: (found) => found.tubes.length && set(found.tubes),
  })
  const tubes = catalogue.data?.tubes ?? []
  const named = new Map(tubes.map((tube) => [tube.key, tube.label]))
  return (
    <Box sx={{ mb: 1.5 }}>
      <Autocomplete
        multiple
        size="small"
        limitTags={4}
        options={tubes.map((tube) => tube.key)}
        value={only}
        getOptionLabel={(key) => named.get(key) ?? key}
        onChange={(_, keys) => set(keys)}
        renderInput={(params) => (
          <TextField
            {...params}
            variant="standard"
            label="Only these sizes"
            placeholder={only.length ? '' : 'every size'}
            slotProps={{ ...params.slotProps, inputLabel: { ...params.slotProps?.inputLabel, shrink: true } }}
          />
        )}
      />
      <Button size="small" sx={{ mt: 0.5, px: 0 }} disabled={rack.isPending} onClick={() => rack.mutate()}>
        Those on the rack
      </Button>
      {only.length > 0 && (
        <Button size="small" sx={{ mt: 0.5, ml: 1.5 }} onClick={() => set([])}>
          Every size
        </Button>
      )}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
        {only.length ? 'Holds for every search of this job.' : ''}
      </Typography>
      {rack.data && (
        <Typography role="status" variant="caption" component="p" sx={{ m: 0 }}>
          {rack.data.tubes.length === 0 && 'No tube of the catalogue stands on the rack. '}
          {rack.data.unknown.length > 0 &&
            `On the rack by a name that the catalogue does not have, and left out: ${rack.data.unknown.join(', ')}.`}
        </Typography>
      )}
      {rack.error && <Problem error={rack.error} />}
    </Box>
  )
}
