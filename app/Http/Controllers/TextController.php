<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Engine\Acts;
use App\Acts\Texts\KeepTemplate;
use App\Api\Collections;
use App\Api\Known;
use App\Api\Problem;
use App\Domain\Texts\TemplateEngine;
use App\Domain\Texts\TextFault;
use App\Models\MadeText;
use App\Models\Model;
use App\Models\Template;
use App\Models\TemplateData;
use App\Models\TemplateOf;
use App\Texts\TextMaking;
use HarborPost\Core\Planning\LayeredData;
use HarborPost\Core\Planning\LineDifference;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Str;

/** Texts by template: written, tried on an object, kept, downloaded. */
final class TextController extends Controller
{
    private const BEGIN = <<<'TWIG'
        {# What is told of the object is "it"; "data" is the team's own, "settings" what is inherited. #}
        site {{ it.name }}
        {% for subnet in list('prefixes', {site_id: it.id, kind: 'subnet', stage: 'live'}) %}
          {{ subnet.prefix|pad(20) }} {{ subnet.name }}{% if subnet.vlan %}, VLAN {{ subnet.vlan.number }}{% endif %}

        {% endfor %}
        TWIG;

    public function index(): View
    {
        $this->wholeOnly();

        return view('texts.index', [
            'templates' => Template::query()->withCount('texts')->orderBy('name')->get(),
            'data' => TemplateData::query()->orderByRaw("field(layer, 'organisation', 'site', 'role', 'tag')")->orderBy('at')->get(),
            'may' => KeepTemplate::permits($this->person()), 'body' => self::BEGIN,
        ]);
    }

    /** A template with its text of one object. */
    public function show(Request $request, string $template): View
    {
        $this->wholeOnly();
        $row = Template::query()->with('texts')->findOrFail($template);
        [$object, $unclear] = $this->typed($row, (string) $request->string('object'));
        [$text, $fault] = $object === null ? [null, $unclear] : $this->text($row, $object);
        $kept = $object === null ? null : $row->texts->firstWhere('object_id', $object->getKey());
        try {
            $data = $object === null ? null : TextMaking::dataOf($object);
        } catch (TextFault $e) {
            $data = null;
        }

        return view('texts.show', [
            'template' => $row, 'object' => $object, 'text' => $text, 'fault' => $fault, 'kept' => $kept,
            'difference' => $kept !== null && $text !== null && $kept->text !== $text ? LineDifference::around($kept->text, $text) : [],
            'last' => $kept?->before === null ? [] : LineDifference::around($kept->before, $kept->text),
            'data' => $data ?? LayeredData::of([]), 'may' => KeepTemplate::permits($this->person()),
            'asked' => (string) $request->string('object'),
        ]);
    }

    /** What a template under the pen makes of an object: nothing is kept. */
    public function attempt(Request $request, string $template): View
    {
        $this->wholeOnly();
        abort_unless(KeepTemplate::permits($this->person()), 403);
        $row = Template::query()->find($template) ?? new Template(['name' => 'new', 'of' => TemplateOf::Site]);
        $row->body = str_replace("\r\n", "\n", (string) $request->string('body'));
        $row->of = TemplateOf::tryFrom((string) $request->string('of')) ?? $row->of;
        $fault = TemplateEngine::fault($row->body);
        [$object, $unclear] = $fault === null ? $this->typed($row, (string) $request->string('object')) : [null, null];
        [$text, $fault] = $object === null
            ? [null, $fault ?? $unclear ?? 'Choose an object: what it makes of that shows here.']
            : $this->text($row, $object);

        return view('texts.made', ['text' => $text, 'fault' => $fault]);
    }

    public function keep(Request $request, Acts $acts, string $template): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless(KeepTemplate::permits($this->person()), 403);
        $row = Template::query()->findOrFail($template);
        $object = $this->typed($row, (string) $request->string('object'))[0] ?? abort(404);
        $outcome = TextMaking::keep($acts, $row, $object, $this->person(), true);
        $kept = MadeText::query()->where('template_id', $row->id)->where('object_id', $object->getKey())->first();
        $trouble = $outcome->block()->message ?? $kept?->trouble;

        return redirect(at('directory.text', $row->id)."?object={$object->getKey()}")
            ->with($trouble === '' ? 'done' : 'trouble', $trouble === '' ? 'Kept, and made again when what it reads changes.' : $trouble);
    }

    public function download(string $template, string $object): Response
    {
        $this->wholeOnly();
        $row = Template::query()->findOrFail($template);
        [$text, $fault] = $this->text($row, $found = $this->typed($row, $object)[0] ?? abort(404));
        abort_if($text === null, 422, (string) $fault);

        return response($text, 200, [
            'Content-Type' => 'text/plain; charset=utf-8', 'X-Content-Type-Options' => 'nosniff',
            'Content-Disposition' => 'attachment; filename="'.$row->fileFor(Str::ascii($found->line())).'"',
        ]);
    }

    /** For programs: by the name of the template, and whatever is known of the object. */
    public function told(string $template, string $known): Response
    {
        $this->wholeOnly();
        $row = Template::query()->where('id', $template)->orWhere('name', rawurldecode($template))->first()
            ?? throw Problem::of(404, 'not-found', 'There is no such template.');
        $object = $this->object($row, rawurldecode($known))
            ?? throw Problem::of(404, 'not-found', "There is no such {$row->of->value}, or it is not available to you.");
        [$text, $fault] = $this->text($row, $object);

        return $text === null
            ? throw Problem::of(422, 'not-made', (string) $fault)
            : response($text, 200, ['Content-Type' => 'text/plain; charset=utf-8']);
    }

    /** @return array{?string, ?string} the text, or why there is none */
    private function text(Template $template, Model $object): array
    {
        try {
            return [TextMaking::of($template, $object, $this->reach()), null];
        } catch (TextFault $e) {
            return [null, $e->getMessage()];
        }
    }

    /** @throws Problem where several may be meant */
    private function object(Template $template, string $known): ?Model
    {
        return Known::row((string) array_search($template->of->model(), Collections::OF, true), $known, $this->reach());
    }

    /** @return array{?Model, ?string} the object that somebody typed, or why none is meant */
    private function typed(Template $template, string $known): array
    {
        try {
            $object = $this->object($template, $known);
        } catch (Problem $e) {
            return [null, $e->words().'.'];
        }

        return [$object, $object !== null || $known === '' ? null : "\"$known\" is no {$template->of->value} that you see."];
    }
}
