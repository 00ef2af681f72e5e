<?php

declare(strict_types=1);

namespace App\Guide;

use Illuminate\Support\Str;

/** The guides of docs/guide, by whom they are for; what is read there is what is read on screen. */
final class Book
{
    /** In the order in which the rail and the work go. */
    public const GUIDES = ['planner', 'operator', 'approver', 'steward', 'program', 'administrator'];

    /** @var array<string, list<Task>> */
    private static array $tasks = [];

    /** @return array{title: string, lead: string, tasks: list<Task>} */
    public static function guide(string $name): array
    {
        $text = (string) file_get_contents(base_path("docs/guide/$name.md"));
        [$head] = preg_split('/^## /m', $text) ?: [$text];
        preg_match('/\A# ([^\n]+)\n\n(.*)/s', $head, $m);

        return ['title' => $m[1] ?? $name, 'lead' => trim($m[2] ?? ''), 'tasks' => self::tasks($name)];
    }

    /** @return list<Task> */
    public static function tasks(string $name): array
    {
        if (! isset(self::$tasks[$name])) {
            $sections = preg_split('/^## /m', (string) file_get_contents(base_path("docs/guide/$name.md"))) ?: [];
            preg_match('/\A# (.+)$/m', $sections[0], $of);
            self::$tasks[$name] = array_map(static function (string $section) use ($name, $of): Task {
                [$title, $text] = explode("\n", $section, 2) + ['', ''];
                preg_match_all('/^<!-- page: (\S+) -->\n/m', $text, $pages);

                return new Task(
                    $name, $of[1] ?? $name, Str::slug($title), trim($title), trim((string) preg_replace('/^<!--.*-->\n/m', '', $text)),
                    $pages[1],
                );
            }, array_slice($sections, 1));
        }

        return self::$tasks[$name];
    }

    /** @return list<Task> */
    public static function all(): array
    {
        return array_merge(...array_map(self::tasks(...), self::GUIDES));
    }

    /** @return list<Task> those that a page is about */
    public static function about(string $path): array
    {
        return array_values(array_filter(self::all(), static fn (Task $t): bool => $t->isAbout($path)));
    }

    /** @return list<Task> those with each of the words, the ones that have them in their title first */
    public static function like(string $text, int $most): array
    {
        $words = array_filter(preg_split('/\s+/', mb_strtolower(trim($text))) ?: [], static fn (string $w): bool => mb_strlen($w) > 2);
        if ($words === []) {
            return [];
        }
        $has = static fn (string $where): bool => array_filter($words, static fn (string $w): bool => ! str_contains($where, $w)) === [];
        $titled = $inside = [];
        foreach (self::all() as $task) {
            match (true) {
                $has(mb_strtolower($task->title)) => $titled[] = $task,
                $has(mb_strtolower("$task->title $task->text")) => $inside[] = $task,
                default => null,
            };
        }

        return array_slice([...$titled, ...$inside], 0, $most);
    }
}
