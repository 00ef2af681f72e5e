<x-layout title="Mail" verb="watch">
  <header class="title">
    <h1>Mail</h1>
    <span class="soft">{{ $whole ? 'what was sent to everybody' : 'what was sent to you' }} in the last 90 days;
      {{ $set ? "$waiting wait" : 'no mail server is set: nothing is sent' }}</span>
    <span class="end row">
      @include('watch.tabs', ['here' => at('watch.mail')])
    </span>
  </header>
  <section class="panel">
    <header>
      <h2>Mails</h2>
      <a class="btn small end" href="{{ at('me') }}#mail">When you get mail</a>
    </header>
    @if ($mails->isEmpty())
      <x-empty title="Nothing was sent yet">
        {{ $set ? 'People who said where they get mail get reports when they are due, and what calls for them once a day or at once.' : '' }}
        @unless ($set)
          The settings of the installation name the server that takes mail (HARBOR_MAIL); until then everything is told here alone.
        @endunless
      </x-empty>
    @else
      <x-table label="Mail" data-worktable>
        <thead>
          <tr>
            <th>Written</th>
            <th>To</th>
            <th>Subject</th>
            <th>With</th>
            <th>Stands</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($mails as $m)
            <tr>
              <td title="{{ $m->made_at }} UTC">{{ \Carbon\CarbonImmutable::parse($m->made_at)->diffForHumans() }}</td>
              <td class="wrap">{{ $m->name }}<br><span class="hint">{{ $m->address }}</span></td>
              <td class="wrap">
                <details>
                  <summary>{{ $m->subject }}</summary>
                  <pre class="mono">{{ $whole && $m->person_id !== auth()->id() ? 'Its text is for its reader.' : $m->body }}</pre>
                </details>
              </td>
              <td class="mono">{{ $m->file }}</td>
              <td class="wrap">
                @if ($m->state === App\Models\MailState::Sent->value)
                  @mark('ok') taken by the mail server {{ \Carbon\CarbonImmutable::parse($m->sent_at)->diffForHumans() }}
                @elseif ($m->state === App\Models\MailState::Waiting->value)
                  @mark('warn') waits{{ $m->tries > 0 ? ', tried ' . $m->tries . ' times: ' . $m->says : '' }}
                @else
                  @mark('stop') given up after a day: {{ $m->says }}
                @endif
              </td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
    @endif
  </section>
</x-layout>
