<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Guide\Book;
use App\Guide\Task;
use App\Models\Role;
use HarborPost\Launcher\Settings;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Str;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** The guides, task by task, and what is made of declarations: commands and settings. */
final class GuideController extends Controller
{
    /** What opens to who is bound to a tenant too. */
    private const OPEN_TO_ALL = '~\A/(plan|name|lease|find|me|bridge|api|graph|guide(/commands)?)\z~';

    public function index(Request $request): View
    {
        $asked = (string) $request->string('q');

        return view('guide.index', [
            'guides' => array_combine(Book::GUIDES, array_map(Book::guide(...), Book::GUIDES)), 'asked' => $asked,
            'found' => $asked === '' ? [] : Book::like($asked, 30),
        ]);
    }

    public function show(string $guide): View
    {
        abort_unless(in_array($guide, Book::GUIDES, true), 404);
        $read = Book::guide($guide);

        return view('guide.show', [
            'title' => $read['title'], 'lead' => $read['lead'],
            'tasks' => array_map(fn (Task $t): array => ['task' => $t, 'html' => $this->opened(self::html($t->text))], $read['tasks']),
        ]);
    }

    /** What the guides say of the page that somebody looks at. */
    public function about(Request $request): View|RedirectResponse
    {
        $path = '/'.trim((string) $request->string('page'), '/');
        $tasks = Book::about($path);
        if (count($tasks) === 1) {
            return redirect($tasks[0]->link());
        }

        return view('guide.about', ['tasks' => $tasks, 'path' => $path, 'guides' => array_map(Book::guide(...), Book::GUIDES)]);
    }

    public function commands(): View
    {
        $told = [];
        foreach (Artisan::all() as $name => $command) {
            if (str_starts_with($command::class, 'App\\Console\\') && ! $command->isHidden()) {
                $told[(string) $name] = ['says' => $command->getDescription(), 'takes' => self::takes($command)];
            }
        }
        ksort($told);

        return view('guide.commands', ['commands' => $told]);
    }

    public function settings(): View
    {
        $this->wholeOnly();
        require_once base_path('launcher/Settings.php');

        return view('guide.settings', ['settings' => Settings::KNOWN]);
    }

    public function picture(string $name): BinaryFileResponse
    {
        $file = base_path("docs/screenshots/$name.png");
        abort_unless(is_file($file), 404);

        return response()->file($file, ['Cache-Control' => 'private, max-age=3600']);
    }

    /** What does not open for who reads is told, and leads nowhere. */
    private function opened(string $html): string
    {
        $person = $this->person();

        return (string) preg_replace_callback('~<a href="(/[^"]*)">(.*?)</a>~s', static fn (array $m): string => match (true) {
            $person->isBound() => preg_match(self::OPEN_TO_ALL, $m[1]) === 1,
            str_starts_with($m[1], at('ship.hooks')) => $person->does(Role::Steward),
            default => true,
        } ? $m[0] : $m[2], $html);
    }

    /** Only what stands in our own files is made into HTML, and of that nothing that is HTML already. */
    private static function html(string $markdown): string
    {
        $html = Str::markdown($markdown, ['html_input' => 'escape', 'allow_unsafe_links' => false]);

        return (string) preg_replace_callback(
            '#src="\.\./screenshots/([a-z-]+)\.png"#',
            static fn (array $m): string => 'src="'.at('guide.picture', $m[1]).'" loading="lazy"',
            $html,
        );
    }

    /** @return list<array{string, string}> */
    private static function takes(Command $command): array
    {
        $own = $command->getNativeDefinition();
        $said = static fn (InputArgument|InputOption $one): string => $one->getDescription();

        return array_values([
            ...array_map(static fn (InputArgument $a): array => [$a->isRequired() ? $a->getName() : "[{$a->getName()}]", $said($a)],
                $own->getArguments()),
            ...array_map(static fn (InputOption $o): array => ["--{$o->getName()}".($o->acceptValue() ? '=…' : ''), $said($o)],
                $own->getOptions()),
        ]);
    }
}
