<x-layout :title="$template->name" verb="directory" :work="$may ? 'template' : null" does="change it">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('directory.texts') }}">Texts</a></li>
      <li aria-current="page">{{ $template->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $template->name }}</h1>
    <span class="soft">made of {{ App\Models\TemplateOf::choices()[$template->of->value] }}</span>
    <span class="soft">{{ $template->description }}</span>
    <a class="btn small end" href="{{ at('watch') }}?object={{ $template->id }}">History</a>
  </header>
  <div class="split even">
    <div class="stack">
      <section class="panel" aria-label="The template">
        <header>
          <h2>Template</h2>
          <span class="soft">in the language of Twig</span>
        </header>
        <div class="pad">
          @if ($may)
            <x-act id="template" action="keep-template" :seen="['template:' . $template->id => $template->version]">
              <input type="hidden" name="id" value="{{ $template->id }}">
              <div class="pair">
                <x-field form="template" name="name" label="Name" :value="$template->name" />
                <x-field form="template" name="of" label="Made of" :options="App\Models\TemplateOf::choices()" :value="$template->of->value" />
              </div>
              <div class="pair">
                <x-field form="template" name="fileName" label="File name" :value="$template->file_name" placeholder="router-{name}.conf" />
                <x-field form="template" name="description" label="Description" :value="$template->description" />
              </div>
              <x-field form="template" name="body" label="Template" mono rows="20" :value="$template->body" />
            </x-act>
            <p class="row below">
              <button class="btn small" type="button" form="template" hx-post="{{ at('directory.text.attempt', $template->id) }}" hx-include="#template"
                hx-vals='{"object": "{{ $object?->getKey() }}"}' hx-target="#attempt" hx-swap="innerHTML">Try it as it stands</button>
              <span class="hint">nothing is kept by that</span>
            </p>
            <div id="attempt" aria-live="polite"></div>
          @else
            <pre class="made tall" tabindex="0">{{ $template->body }}</pre>
          @endif
        </div>
      </section>
      @if ($may)
        <x-follows-slot form="template" />
      @endif
      <details class="panel">
        <summary class="bar-line"><b>What a template can use</b></summary>
        <dl class="facts pad">
          <dt class="mono">it</dt>
          <dd>the object, with the fields that programs see and what it names: <code>it.name</code>, <code>it.site.name</code></dd>
          <dt class="mono">data</dt>
          <dd>your own, merged by layer: <code>data.ntp</code></dd>
          <dt class="mono">settings</dt>
          <dd>what is inherited there: <code>settings.resolvers|join(' ')</code></dd>
          <dt class="mono">list</dt>
          <dd><code>list('addresses', {prefix_id: it.id})</code>: the lists of <a href="{{ at('api') }}">programs</a>, with their filters</dd>
          <dt class="mono">one</dt>
          <dd><code>one('vlans', it.vlan_id)</code>: one object, by its id or by what is known of it</dd>
          <dt class="mono">filters</dt>
          <dd><code>network bits mask wildcard first_usable last_usable broadcast reverse_zones</code> of a prefix,
            <code>plus reverse_name</code> of an address, <code>pad</code>, and those of the language</dd>
        </dl>
      </details>
    </div>
    <div class="stack">
      <section class="panel" aria-label="Its text">
        <header>
          <h2>{{ $object ? $object->line() : 'Its text' }}</h2>
          @if ($text !== null)
            <span class="end row">
              <a class="btn small" href="{{ at('directory.text.of', $template->id, $object->getKey()) }}" download>Download</a>
              @if ($may && $kept === null)
                <form method="post" action="{{ at('directory.text.keep', $template->id) }}">
                  @csrf
                  <input type="hidden" name="object" value="{{ $object->getKey() }}">
                  <button class="btn small">Keep this text</button>
                </form>
              @endif
            </span>
          @endif
        </header>
        <form class="pad row" method="get">
          <x-field form="of" name="object" :label="ucfirst($template->of->value)" :pick="$template->of->value" :value="$object?->getKey() ?? ''"
            :shown="$object?->line() ?? $asked" />
          <button class="btn small">Make its text</button>
        </form>
        @if ($object === null && $asked === '')
          <p class="pad hint">Choose {{ App\Models\TemplateOf::choices()[$template->of->value] }}: its text shows here.</p>
        @endif
        @include('texts.made')
        @if ($kept !== null)
          <p class="pad-all">
            @mark($kept->trouble === '' ? 'ok' : 'warn')
            Kept: so since {{ $kept->made_at->format('j M H:i') }} UTC, made again {{ $kept->looked_at->diffForHumans() }}.
            {{ $kept->trouble }}
          </p>
        @endif
      </section>
      @if ($difference !== [])
        <section class="panel" aria-label="Against the kept text">
          <header>
            <h2>Against the text that is kept</h2>
            <span class="soft">what it reads was changed since; it is made again within ten minutes</span>
          </header>
          @include('texts.lines', ['lines' => $difference])
        </section>
      @endif
      @if ($last !== [])
        <details class="panel">
          <summary class="bar-line"><b>What changed {{ $kept->made_at->format('j M H:i') }} UTC</b></summary>
          @include('texts.lines', ['lines' => $last])
        </details>
      @endif
      @if ($object !== null && $data->origins !== [])
        <section class="panel" aria-label="Data">
          <header>
            <h2>Its data</h2>
            <a class="btn small end" href="{{ at('directory.texts') }}">Change data</a>
          </header>
          <x-table label="Data">
            <thead>
              <tr>
                <th>Value</th>
                <th>Is</th>
                <th>From</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($data->origins as $path => $origin)
                <tr>
                  <td class="mono">data.{{ $path }}</td>
                  <td class="mono wrap">{{ json_encode(data_get($data->data, $path), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE) }}</td>
                  <td>{{ $origin }}</td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        </section>
      @endif
      @if ($template->texts->isNotEmpty())
        <section class="panel" aria-label="Kept texts">
          <header>
            <h2>Kept texts</h2>
          </header>
          <x-table label="Kept texts" data-worktable>
            <thead>
              <tr>
                <th>Of</th>
                <th>So since</th>
                <th>Made again</th>
                @if ($may)
                  <th><span class="sr">Acts</span></th>
                @endif
              </tr>
            </thead>
            <tbody>
              @foreach ($template->texts as $t)
                <tr>
                  <td class="name"><a href="?object={{ $t->object_id }}">{{ $t->title }}</a></td>
                  <td>{{ $t->made_at->format('j M H:i') }}</td>
                  <td class="wrap">{{ $t->looked_at->diffForHumans() }}
                    @if ($t->trouble !== '')
                      @mark('warn') {{ $t->trouble }}
                    @endif
                  </td>
                  @if ($may)
                    <td>
                      <x-cut :id="'cut' . $t->id" action="drop-text" :input="['text' => $t->id]" target="#follows-cut" label="Keep no longer" :of="$t->title" />
                    </td>
                  @endif
                </tr>
              @endforeach
            </tbody>
          </x-table>
          <div id="follows-cut"></div>
        </section>
      @endif
      @if ($may)
        <div>
          <x-cut id="cuttemplate" action="remove-template" :input="['template' => $template->id]" target="#follows-cuttemplate"
            label="Remove the template" class="row end" />
          <div id="follows-cuttemplate"></div>
        </div>
      @endif
    </div>
  </div>
</x-layout>
