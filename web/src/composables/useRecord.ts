import { useJobPart } from './useJobPart'

/** What the open job's record holds beside its readings, and what a look at the job finds. */
export const useRecord = () =>
  useJobPart(
    'record',
    (path) => (api) => api.GET('/api/jobs/{job_id}/record', { params: { path } }),
  )
