<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { ref, watch } from 'vue'
import type { Bolt, Joint, JointView } from '../api/client'
import { useActing } from '../composables/useActing'
import { useChoices } from '../stores/choices'
import UnitInput from './UnitInput.vue'

const props = defineProps<{ joint: JointView; places: number[] }>()
const emit = defineEmits<{ done: [] }>()
const { choices } = storeToRefs(useChoices())
const { problem, busy, act } = useActing()
const form = ref({ torque: '', unit: 'nm', source: '', note: '', head: '', hold: '', right: false })

watch(
  () => props.places,
  () => {
    const map = props.joint.map as unknown as Joint
    const one = map.bolts.find((bolt) => bolt.number === props.places[0])
    form.value = {
      torque: one?.spec?.torque?.text ?? '',
      unit: one?.spec?.torque?.unit ?? 'nm',
      source: one?.spec?.source ?? '',
      note: one?.note ?? '',
      head: one?.head ?? '',
      hold: one?.hold ?? '',
      right: one?.spec?.affirmed ?? false,
    }
  },
  { immediate: true },
)

function changed(bolt: Bolt): Bolt {
  if (!props.places.includes(bolt.number)) return bolt
  const one = form.value
  const torque = one.torque.trim() ? { text: one.torque, unit: one.unit } : null
  const spec =
    torque || bolt.spec ? { ...bolt.spec, torque, source: one.source, affirmed: one.right } : null
  return { ...bolt, spec, note: one.note, head: one.head, hold: one.hold }
}

async function save(): Promise<void> {
  const map = props.joint.map as unknown as Joint
  const joint = { ...map, bolts: map.bolts.map(changed) }
  if (await act({ kind: 'drawn', joint })) emit('done')
}
</script>

<template>
  <form class="card entry-form" aria-label="Change places" @submit.prevent="save">
    <h3>Change place {{ places.join(', ') }}</h3>
    <label>
      Torque
      <UnitInput
        v-model:text="form.torque"
        v-model:unit="form.unit"
        label="Torque of the place"
        :units="choices.torque_units"
        @enter="save"
      />
    </label>
    <label class="wide">Source <input v-model="form.source" class="box" maxlength="200" /></label>
    <label>Head <input v-model="form.head" class="box" maxlength="40" /></label>
    <label>Hold <input v-model="form.hold" class="box" maxlength="40" /></label>
    <label class="wide">
      Which way round <input v-model="form.note" class="box" maxlength="120" />
    </label>
    <label class="tick"><input v-model="form.right" type="checkbox" /> Right as typed</label>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
    <el-button type="primary" native-type="submit" :disabled="busy">Save the change</el-button>
  </form>
</template>

<style scoped>
.tick {
  display: flex !important;
  gap: 8px;
  align-items: center;
  min-height: 44px;
}
</style>
