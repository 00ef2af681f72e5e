<section class="panel">
  <header>
    <h2>Top prefix</h2>
  </header>
  <div class="pad">
    <x-act id="top" action="carve-prefix">
      <input type="hidden" name="space" value="{{ $space->id }}">
      <input type="hidden" name="kind" value="supernet">
      <x-field form="top" name="prefix" label="Prefix" mono placeholder="10.32.0.0/12" />
      <x-field form="top" name="name" label="Name" />
      <x-field form="top" name="origin" label="Origin: who allocated it" />
      <div class="pair">
        <x-field form="top" name="originOn" label="When" type="date" />
        <x-field form="top" name="originHandle" label="Handle" mono />
      </div>
      <x-field form="top" name="stage" label="Stage" :options="['live' => 'live', 'planned' => 'planned', 'withheld' => 'withheld']" value="live" />
    </x-act>
  </div>
</section>
