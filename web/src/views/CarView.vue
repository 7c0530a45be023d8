<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { ask, newId } from '../api/client'
import ChoiceField from '../components/ChoiceField.vue'
import FieldGroup from '../components/FieldGroup.vue'
import LoadsPlan from '../components/LoadsPlan.vue'
import NewJob from '../components/NewJob.vue'
import { useGuarded } from '../composables/useGuarded'
import { useMoveOn } from '../composables/useMoveOn'
import { useCar } from '../stores/car'

const store = useCar()
const router = useRouter()
const page = ref<HTMLElement | null>(null)
const copyName = ref('')
const { problem, busy, guarded } = useGuarded()
const own = computed(() => store.sheet?.fields.filter((one) => !one.axle) ?? [])
const layouts = computed(() => store.sheet?.fields.filter((one) => one.name === 'layout') ?? [])
const moveOn = useMoveOn(page)

const copy = () =>
  guarded(async () => {
    const body = { id: newId(), car: copyName.value.trim() || `${store.car!.car}, copy` }
    const car = await ask((api) =>
      api.POST('/api/cars/{car_id}/copy', { params: { path: { car_id: store.car!.id } }, body }),
    )
    copyName.value = ''
    await router.push({ name: 'car', params: { carId: car.id } })
  })
</script>

<template>
  <div ref="page" class="stack">
    <h2>{{ store.car!.car }}</h2>
    <div class="with-aside">
      <div class="stack">
        <section class="card stack" aria-label="Axles">
          <h3>Axles</h3>
          <ChoiceField
            v-for="field in layouts"
            :key="field.key"
            :field="field"
            :prefix="field.axle === 'front' ? 'Front' : 'Rear'"
            :title="field.axle === 'front' ? 'Front axle' : 'Rear axle'"
          />
        </section>
        <FieldGroup title="The car" :fields="own" prefix="" @saved="moveOn" />
      </div>
      <div class="stack">
        <LoadsPlan v-if="store.car!.loads" :loads="store.car!.loads" />
        <NewJob :cars="[]" :car="store.car!.id" />
        <form class="card stack" @submit.prevent="copy">
          <h3>Another car like it</h3>
          <label class="labelled">
            Its name
            <el-input v-model="copyName" maxlength="120" />
          </label>
          <el-button native-type="submit" :disabled="busy">Copy the record</el-button>
          <RefusalNote :said="problem" />
        </form>
      </div>
    </div>
  </div>
</template>
