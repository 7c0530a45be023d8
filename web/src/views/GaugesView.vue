<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref } from 'vue'
import { ask, newId, type InstrumentView, type StandInView } from '../api/client'
import GaugeLine from '../components/GaugeLine.vue'
import InstrumentForm from '../components/InstrumentForm.vue'
import StandInFaults from '../components/StandInFaults.vue'
import { useRead } from '../composables/useRead'
import { useGauges } from '../stores/gauges'

const gauges = useGauges()
const editing = ref<InstrumentView | 'new' | null>(null)
const {
  found: standIns,
  problem,
  busy,
  guarded,
  again,
} = useRead(['stand-ins'], (api) => api.GET('/api/stand-ins'))
const unknown = computed(
  () =>
    standIns.value?.filter(
      (one) => !gauges.instruments.some((each) => each.address === one.address),
    ) ?? [],
)

const load = () =>
  guarded(async () => {
    await gauges.load()
    await again()
  })

const adopt = (one: StandInView) =>
  guarded(async () => {
    const body = {
      id: newId(),
      name: `${one.label}, simulated`,
      kind: one.kind as InstrumentView['kind'] & 'other',
      unit: one.unit,
      resolution: String(one.resolution),
      uncertainty: String(one.uncertainty),
      address: one.address,
    }
    await ask((api) => api.POST('/api/instruments', { body }))
    await gauges.load()
    gauges.pair(body.id)
  })

const saved = async () => {
  editing.value = null
  await load()
}

void guarded(() => gauges.load())
</script>

<template>
  <div class="gauges">
    <header class="flex flex-wrap gap-y-8px gap-x-20px items-center justify-between">
      <div>
        <h2>Gauges</h2>
        <p class="soft">
          What each can tell apart, how sure it is, and until when its calibration holds. Readings
          carry this with them.
        </p>
      </div>
      <el-button v-if="!editing" type="primary" @click="editing = 'new'">Add a gauge</el-button>
    </header>
    <RefusalNote :said="problem" />
    <InstrumentForm
      v-if="editing"
      :key="editing === 'new' ? 'new' : editing.id"
      :start="editing === 'new' ? null : editing"
      @saved="saved"
      @left="editing = null"
    />
    <section
      v-for="one in gauges.instruments"
      :key="one.id"
      class="card gap-8px"
      :aria-label="one.name"
    >
      <div class="head flex flex-wrap gap-y-8px gap-x-20px items-center justify-between">
        <div>
          <h3>{{ one.name }}</h3>
          <p class="soft">
            {{ one.kind_said
            }}<template v-if="one.resolution">
              · shows {{ one.resolution }} {{ one.unit_said }}</template
            ><template v-if="one.uncertainty">
              · ± {{ one.uncertainty }} {{ one.unit_said }}</template
            >
          </p>
        </div>
        <p :class="one.overdue ? 'wait' : 'soft'">
          <template v-if="one.overdue">▲ Calibration ran out on {{ one.due }}</template>
          <template v-else-if="one.due">Calibrated until {{ one.due }}</template>
          <template v-else>No calibration date</template>
        </p>
        <div class="row">
          <el-button
            v-if="one.address && !gauges.lines[one.id]"
            type="primary"
            @click="gauges.pair(one.id)"
          >
            Pair
          </el-button>
          <el-button v-else-if="one.address" @click="gauges.unpair(one.id)">Unpair</el-button>
          <span v-else class="soft">read by eye, typed in</span>
          <el-button text :aria-label="`Change ${one.name}`" @click="editing = one">✎</el-button>
        </div>
      </div>
      <template v-if="gauges.lines[one.id]">
        <GaugeLine :instrument="one" :line="gauges.lines[one.id]!" nameless />
        <StandInFaults v-if="gauges.lines[one.id]!.standIn" :line="gauges.lines[one.id]!" />
      </template>
    </section>
    <section v-if="unknown.length" class="card">
      <h3>Simulated gauges</h3>
      <p class="soft">They ship with the product and stand in for real ones, to practise with.</p>
      <div class="row">
        <el-button v-for="one in unknown" :key="one.address" :disabled="busy" @click="adopt(one)">
          + {{ one.label }}
        </el-button>
      </div>
    </section>
  </div>
</template>

<style scoped>
.gauges,
.card:not(.entry-form) {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}

.head > div:first-child {
  flex: 1;
  min-width: 240px;
}

.wait {
  font-weight: 600;
  color: var(--wait);
}
</style>
