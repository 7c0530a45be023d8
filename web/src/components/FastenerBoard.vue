<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'
import type { GroupView, PlaceView, Side, Stage } from '../api/client'
import { useActing } from '../composables/useActing'
import { useChoices } from '../stores/choices'
import { useJob } from '../stores/job'
import ReasonDialog from './ReasonDialog.vue'
import SpecRow from './SpecRow.vue'
import UnitInput from './UnitInput.vue'

const props = defineProps<{ group: GroupView; side: Side; until: Stage }>()
const store = useJob()
const { choices } = storeToRefs(useChoices())
const { problem, busy, act } = useActing()
const picked = ref<string[]>([])
const reading = ref('')
const unit = ref(props.group.spec?.torque.unit ?? 'nm')
const asking = ref<'feel' | 'override' | null>(null)

const ORDER: Stage[] = ['loose', 'hand', 'snug', 'torqued']
const WORDS: Record<Stage, string> = {
  loose: 'loose',
  hand: 'by hand',
  snug: 'snug',
  torqued: 'torqued',
}
const places = computed(() => props.group.places.filter((place) => place.side === props.side))
const rank = (place: PlaceView) => (place.stage ? ORDER.indexOf(place.stage) : 0)
const lowest = computed(() => Math.min(...places.value.map(rank)))
const next = computed<Stage | null>(() => {
  const stage = ORDER[Math.max(lowest.value, 0) + 1]
  return stage && ORDER.indexOf(stage) <= ORDER.indexOf(props.until) ? stage : null
})
const due = computed(() =>
  places.value.filter((one) => rank(one) === lowest.value).map((one) => one.key),
)
const chosen = computed(() => (picked.value.length ? picked.value : due.value))
const name = computed(
  () => `${props.side === 'left' ? 'Left' : 'Right'} ${props.group.label.toLowerCase()}`,
)
const gate = computed(() => store.job!.gates[props.side])
const shut = computed(
  () => props.group.needs_load[props.side] && next.value === 'torqued' && !gate.value.open,
)
const many = computed(() => (chosen.value.length > 1 ? ` (${chosen.value.length})` : ''))

function toggle(key: string): void {
  picked.value = picked.value.includes(key)
    ? picked.value.filter((one) => one !== key)
    : [...picked.value, key]
}

async function bring(
  to: Stage,
  extra: { by_feel?: string; override?: string } = {},
): Promise<void> {
  const read = to === 'torqued' && !extra.by_feel ? { text: reading.value, unit: unit.value } : null
  const taken = await act({ kind: 'tightened', places: chosen.value, to, reading: read, ...extra })
  if (taken) {
    picked.value = []
    if (to === 'torqued' && lowest.value === 3) reading.value = ''
  }
}

function reasoned(reason: string): void {
  void bring('torqued', asking.value === 'feel' ? { by_feel: reason } : { override: reason })
}

const asked = computed({
  get: () => asking.value !== null,
  set: (open) => (open ? undefined : window.setTimeout(() => (asking.value = null))),
})
</script>

<template>
  <section class="board" :aria-label="name">
    <div class="title">
      <h4>{{ name }}</h4>
      <span v-if="group.needs_load[side]" class="load">▮ bonded rubber</span>
      <span class="soft">{{ group.tools }}. {{ group.orientation }} {{ group.tied }}</span>
    </div>
    <div class="places">
      <button
        v-for="place in places"
        :key="place.key"
        type="button"
        class="place"
        :class="[place.stage ?? 'found', { picked: picked.includes(place.key) }]"
        :aria-pressed="picked.includes(place.key)"
        @click="toggle(place.key)"
      >
        <b class="figure">{{ place.number }}</b>
        <span>{{ place.stage ? WORDS[place.stage] : 'as found' }}</span>
        <small v-if="place.reading">{{ place.reading }}</small>
        <small v-if="place.by_feel">by feel</small>
        <small v-if="place.overridden">override</small>
      </button>
    </div>
    <div v-if="next === 'torqued'" class="torque">
      <p v-if="group.spec" class="wanted">
        Specified <b class="figure">{{ group.spec.said }}</b>
        <span class="soft"> · {{ group.spec.source }}</span>
      </p>
      <SpecRow
        v-else
        :group="group"
        :units="choices.torque_units"
        :classes="choices.property_classes"
        start-open
      />
      <p v-if="shut" class="notice stop" role="status">
        <span><b>Not yet.</b> {{ gate.reason }}</span>
      </p>
      <div class="row">
        <UnitInput
          v-model:text="reading"
          v-model:unit="unit"
          class="read"
          placeholder="Reading"
          :label="`${name}: torque reading`"
          :unit-label="`${name}: reading unit`"
          :units="choices.torque_units"
          @enter="bring('torqued')"
        />
        <el-button type="primary" :disabled="busy" @click="bring('torqued')">
          Torqued{{ many }}
        </el-button>
        <el-button text :disabled="busy" @click="asking = 'feel'">By feel…</el-button>
        <el-button v-if="shut" text :disabled="busy" @click="asking = 'override'">
          Override…
        </el-button>
      </div>
    </div>
    <div v-else class="row">
      <el-button v-if="next" type="primary" :disabled="busy" @click="bring(next)">
        {{ next === 'hand' ? 'Started by hand' : 'Snug' }}{{ many }}
      </el-button>
      <span v-else class="finished">✓ {{ WORDS[until] }}</span>
      <el-button v-if="lowest > 0" text :disabled="busy" @click="bring('loose')">
        Opened again
      </el-button>
    </div>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
    <ReasonDialog
      v-model="asked"
      :title="asking === 'feel' ? 'Tightened by feel' : 'Torque outside the rule'"
      :detail="
        asking === 'feel'
          ? 'It stays on the record as estimated, for ever.'
          : 'The bushing will stay wound up. The override stays on the record for ever.'
      "
      :confirm="asking === 'feel' ? 'Record by feel' : 'Override and record'"
      @given="reasoned"
    />
  </section>
</template>

<style scoped src="./fastener-board.css"></style>
