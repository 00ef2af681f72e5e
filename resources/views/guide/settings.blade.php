<x-layout title="Settings of an installation">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('guide') }}">Guide</a></li>
      <li aria-current="page">Settings</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Settings of an installation</h1>
    <span class="soft">in its settings file, a line each; <code>./hpost settings</code> writes one with all of them</span>
  </header>
  <section class="panel">
    <x-table label="Settings" data-worktable>
      <thead>
        <tr>
          <th>Setting</th>
          <th>Where none is written</th>
          <th>Is</th>
        </tr>
      </thead>
      <tbody>
        @foreach ($settings as $name => [$default, $why])
          <tr>
            <td class="mono name">{{ $name }}</td>
            <td class="mono wrap">{{ $default === '' ? 'nothing' : $default }}</td>
            <td class="wrap">{{ $why }}</td>
          </tr>
        @endforeach
      </tbody>
    </x-table>
  </section>
</x-layout>
