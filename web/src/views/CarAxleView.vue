<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref } from 'vue'
import { ask, newId } from '../api/client'
import AxleParts from '../components/AxleParts.vue'
import FieldGroup from '../components/FieldGroup.vue'
import PartShelf from '../components/PartShelf.vue'
import { useGuarded } from '../composables/useGuarded'
import { useMoveOn } from '../composables/useMoveOn'
import { useCar } from '../stores/car'

const props = defineProps<{ axle: 'front' | 'rear' }>()
const store = useCar()
const page = ref<HTMLElement | null>(null)
const { problem, busy, guarded } = useGuarded()
const title = computed(() => (props.axle === 'front' ? 'Front' : 'Rear'))
/** What a part hangs on and carries is told on the drawing. */
const ON_DRAWING = 'Parts and joints'
const own = computed(
  () =>
    store.sheet?.fields.filter((one) => one.axle === props.axle && one.group !== 'Points') ?? [],
)
const fields = computed(() => own.value.filter((one) => one.group !== ON_DRAWING))
const hangsOn = computed(() => own.value.filter((one) => one.group === ON_DRAWING))
const groups = computed(() => [...new Set(fields.value.map((one) => one.group))])
const known = computed(() => !!store.car!.entries[`${props.axle}.layout`])
const moveOn = useMoveOn(page)

/** Keys of the parts of a group that can go to the shelf. */
function prefixes(group: string): string[] {
  const own = fields.value.filter((one) => one.group === group && one.name.includes('.'))
  return [...new Set(own.map((one) => one.key.split('.').slice(0, -1).join('.')))]
}

const copy = () =>
  guarded(async () => {
    const body = { id: newId(), seen: store.car!.version, side: 'left' as const }
    store.take(
      await ask((api) =>
        api.POST('/api/cars/{car_id}/copy-side', {
          params: { path: { car_id: store.car!.id } },
          body,
        }),
      ),
    )
  })
</script>

<template>
  <div ref="page" class="grid one-col gap-16px">
    <header class="flex flex-wrap gap-10px items-center justify-between">
      <h2>{{ title }} axle</h2>
      <el-button v-if="known" :disabled="busy" @click="copy">Copy left to right</el-button>
    </header>
    <RefusalNote :said="problem" />
    <el-alert v-if="!known" type="warning" :closable="false" role="note">
      Say first what this axle is; then its arms and points are asked for.
    </el-alert>
    <AxleParts v-if="known" :axle="axle" :fields="hangsOn" :prefix="title" />
    <FieldGroup
      v-for="group in groups"
      :key="axle + group"
      :title="group"
      :fields="fields.filter((one) => one.group === group)"
      :prefix="title"
      @saved="moveOn"
    >
      <PartShelf v-if="prefixes(group).length" :prefixes="prefixes(group)" />
    </FieldGroup>
  </div>
</template>
