<x-layout title="Commands">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('guide') }}">Guide</a></li>
      <li aria-current="page">Commands</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Commands</h1>
    <span class="soft">each as <code>./hpost COMMAND</code>; those that compute take <code>--json</code>, and end with 0, 1 or 2</span>
  </header>
  <section class="panel">
    <x-table label="Commands" data-worktable>
      <thead>
        <tr>
          <th>Command</th>
          <th>Does</th>
          <th>Takes</th>
        </tr>
      </thead>
      <tbody>
        @foreach ($commands as $name => $one)
          <tr>
            <td class="mono name">{{ $name }}</td>
            <td class="wrap">{{ $one['says'] }}</td>
            <td class="wrap">
              @foreach ($one['takes'] as [$word, $says])
                <div><span class="mono">{{ $word }}</span> <span class="hint">{{ $says }}</span></div>
              @endforeach
            </td>
          </tr>
        @endforeach
      </tbody>
    </x-table>
  </section>
</x-layout>
