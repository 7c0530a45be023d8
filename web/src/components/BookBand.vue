<script setup lang="ts">
import { connection } from '../api/connection'
import WhoPicker from './WhoPicker.vue'

defineProps<{
  home: string
  homeLabel: string
  title: string
  detail: string
  waiting: number
  refused: boolean
  pages: { name: string; label: string; also?: string }[]
  label: string
}>()
</script>

<template>
  <header class="screen-only sticky [top:-58px] [z-index:5] bg-band c-chalk">
    <div
      class="max-w-1240px my-0 mx-auto py-0 px-20px flex gap-18px items-center pt-10px lt-phone:[padding-inline:12px]"
    >
      <router-link
        :to="{ name: home }"
        class="flex gap-8px items-center min-h-44px c-chalk no-underline"
        :aria-label="homeLabel"
      >
        <img src="/mark.svg" alt="" width="32" height="32" />
        <span class="lt-phone:hidden">{{ homeLabel }}</span>
      </router-link>
      <div v-if="title" class="flex-1 min-w-0">
        <h1 class="text-24px lt-phone:text-20px">{{ title }}</h1>
        <p class="c-chalk-soft">{{ detail }}</p>
      </div>
      <WhoPicker />
      <p
        class="c-chalk-soft whitespace-nowrap"
        :class="{ lost: connection.lost || refused }"
        role="status"
      >
        <template v-if="connection.lost">
          ✕ {{ connection.words ? 'Not saved' : 'Connection lost'
          }}<template v-if="waiting">: {{ waiting }} waiting</template>
        </template>
        <template v-else-if="refused">✕ {{ waiting }} wait for you</template>
        <template v-else-if="waiting">{{ waiting }} being sent</template>
        <template v-else>● All saved</template>
      </p>
    </div>
    <div
      class="where max-w-1240px my-0 mx-auto py-0 px-20px flex gap-22px items-center pt-6px lt-phone:[padding-inline:12px] lt-phone:flex-col lt-phone:gap-4px lt-phone:items-stretch"
    >
      <slot />
    </div>
    <nav
      :aria-label="label"
      class="max-w-1240px my-0 mx-auto py-0 px-20px flex gap-4px mt-6px overflow-x-auto lt-phone:[padding-inline:12px] lt-phone:gap-0 lt-phone:justify-between"
    >
      <router-link
        v-for="page in pages"
        :key="page.name"
        :to="{ name: page.name }"
        class="grid place-items-center min-h-44px px-18px [font:600_19px_var(--figures)] whitespace-nowrap c-chalk-soft no-underline [border-bottom:4px_solid_transparent] lt-phone:px-6px lt-phone:text-18px"
        :class="{ here: page.name === $route.name || page.also === $route.name }"
      >
        {{ page.label }}
      </router-link>
    </nav>
  </header>
</template>

<style scoped>
.lost {
  padding: 4px 10px;
  color: #fff;
  background: #a12d1d;
  border-radius: var(--radius);
}

.where:empty {
  display: none;
}

.here {
  color: var(--chalk);
  border-color: var(--brass);
}
</style>
