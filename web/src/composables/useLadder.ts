import type { SitsView } from '../api/client'

/** Heights of one wheel, mm hub to arch, that a ladder shows. */
export interface LadderMarks {
  before?: number | null
  predicted?: number | null
  spread?: number | null
  settled?: number | null
  wanted?: number | null
  clamp?: [number, number] | null
}

export function ladderOfWheel(wheel: SitsView): LadderMarks {
  return {
    before: wheel.height_mm,
    predicted: wheel.predicted_mm,
    spread: wheel.predicted_plus_minus_mm,
    settled: wheel.measured_mm,
    wanted: wheel.target_mm,
  }
}
