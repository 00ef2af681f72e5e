<x-layout title="Settings" verb="directory">
  @include('directory.nav', ['current' => 'settings'])
  <header class="title">
    <h1>Settings</h1>
    <span class="soft">the outermost layer; sites and prefixes may set their own</span>
  </header>
  <div class="split two">
    <section class="panel">
      <header>
        <h2>Settings that flow down</h2>
      </header>
      @include('parts.layers', ['layer' => 'organisation', 'object' => ''])
    </section>
    <div class="side">
      <section class="panel">
        <header>
          <h2>Own fields of prefixes</h2>
        </header>
        @if ($fields->isEmpty())
          <p class="pad open">none yet</p>
        @else
          <table>
            <thead>
              <tr>
                <th>Field</th>
                <th>Kind</th>
                <th>Choices</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($fields as $f)
                <tr>
                  <td>{{ $f->name }}</td>
                  <td>{{ $f->kind }}</td>
                  <td class="wrap">{{ implode(', ', $f->choices) }}</td>
                </tr>
              @endforeach
            </tbody>
          </table>
        @endif
        @if ($may)
          <div class="pad pad-all">
            <x-act id="field" action="make-own-field">
              <div class="pair">
                <x-field form="field" name="name" label="Name" />
                <x-field form="field" name="kind" label="Kind" :options="['text' => 'text', 'number' => 'number', 'date' => 'date', 'choice' => 'choice']" />
              </div>
              <x-field form="field" name="choices" label="Choices, apart by commas" hint="for the kind choice" />
            </x-act>
          </div>
        @endif
      </section>
      @if ($may)
        <x-follows-slot form="field" />
      @endif
    </div>
  </div>
</x-layout>
