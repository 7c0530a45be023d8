import { ask, newId, type Schemas } from '../api/client'
import { useJob } from '../stores/job'
import { useGuarded } from './useGuarded'

type Change = Omit<Schemas['ChangePlaces'], 'id' | 'seen'>

/** Places of a joint changed in what was edited alone; the other side with it where it is wanted. */
export function useChangePlaces() {
  const store = useJob()
  const { problem, busy, guarded } = useGuarded()
  const change = (wanted: Change) =>
    guarded(async () => {
      const body = { id: newId(), seen: store.version, ...wanted }
      store.take(
        await ask((api) =>
          api.POST('/api/jobs/{job_id}/joints/change', {
            params: { path: { job_id: store.job!.id } },
            body,
          }),
        ),
      )
    })
  return { problem, busy, change }
}
