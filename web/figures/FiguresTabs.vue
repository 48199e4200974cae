<template>
  <nav class="page-tabs" aria-label="Figures">
    <router-link to="/figures" exact-active-class="on">Today</router-link>
    <router-link to="/figures/compare" active-class="on">Compare</router-link>
    <router-link to="/figures/reports" active-class="on">Reports</router-link>
    <router-link to="/figures/ties" active-class="on">Does it tie?</router-link>
  </nav>
</template>
