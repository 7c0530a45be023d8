import { computed, nextTick, type ComputedRef, type Ref } from 'vue'
import type { FieldView, InstrumentView } from '../api/client'
import type MeasuringField from '../components/MeasuringField.vue'
import { useGauges } from '../stores/gauges'
import type { Shown } from './useLine'

export interface Take {
  /** Paired gauges that can read what is asked. */
  fitting: ComputedRef<InstrumentView[]>
  take(instrument: InstrumentView, shown: Shown): Promise<void>
}

/** A gauge's reading into the waiting field, with the gauge's name. */
export function useTake(
  field: Ref<FieldView | undefined>,
  asked: Ref<InstanceType<typeof MeasuringField> | null>,
): Take {
  const gauges = useGauges()
  const fitting = computed(() => {
    const parts = asked.value?.one.current.value?.parts ?? field.value?.methods[0]?.parts ?? []
    return gauges.paired.filter((one) =>
      one.kind === 'scales'
        ? parts.some((part) => part.name === 'front_left')
        : parts.some((part) => part.quantity === one.quantity),
    )
  })

  async function take(instrument: InstrumentView, shown: Shown): Promise<void> {
    const box = asked.value
    const parts = box?.one.current.value?.parts ?? []
    if (!box) return
    const { texts, units, gauge } = box.one
    if (shown.values) {
      for (const part of parts) {
        const value = shown.values[part.name]
        if (value === undefined) continue
        texts.value[part.name] = String(value)
        units.value[part.name] = instrument.unit
      }
    } else {
      const fits = parts.filter((part) => part.quantity === instrument.quantity)
      const inputs = box.inputs()
      const focused = parts[inputs.indexOf(document.activeElement as HTMLInputElement)]
      const part =
        (focused && fits.includes(focused) && fits.length > 1 ? focused : null) ??
        fits.find((one) => !texts.value[one.name]) ??
        fits[0]
      if (!part || shown.value === null) return
      texts.value[part.name] = String(shown.value)
      units.value[part.name] = instrument.unit
    }
    gauge.value = instrument.gauge
    box.one.typing()
    await nextTick()
    const open = parts.findIndex((part) => !part.optional && !texts.value[part.name])
    const input = box.inputs()[open < 0 ? 0 : open]
    input?.focus()
    if (open < 0) await box.enter()
  }

  return { fitting, take }
}
