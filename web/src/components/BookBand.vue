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
  <header class="band screen-only">
    <div class="top">
      <router-link :to="{ name: home }" class="home" :aria-label="homeLabel">
        <img src="/mark.svg" alt="" width="32" height="32" />
        <span>{{ homeLabel }}</span>
      </router-link>
      <div v-if="title" class="name">
        <h1>{{ title }}</h1>
        <p>{{ detail }}</p>
      </div>
      <WhoPicker />
      <p class="link" :class="{ lost: connection.lost || refused }" role="status">
        <template v-if="connection.lost">
          ✕ {{ connection.words ? 'Not saved' : 'Connection lost'
          }}<template v-if="waiting">: {{ waiting }} waiting</template>
        </template>
        <template v-else-if="refused">✕ {{ waiting }} wait for you</template>
        <template v-else-if="waiting">{{ waiting }} being sent</template>
        <template v-else>● All saved</template>
      </p>
    </div>
    <div class="where"><slot /></div>
    <nav :aria-label="label">
      <router-link
        v-for="page in pages"
        :key="page.name"
        :to="{ name: page.name }"
        :class="{ here: page.name === $route.name || page.also === $route.name }"
      >
        {{ page.label }}
      </router-link>
    </nav>
  </header>
</template>

<style scoped src="./book-band.css"></style>
