<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Models\DraftEdit;
use App\Models\Model;
use App\Queries\Picks;
use App\Queries\Reach;

/**
 * The inputs of an edit as a form may change them, made from what its act declares: objects by their names, as far as the person sees them.
 *
 * @phpstan-type Row array{name: string, label: string, help: string, kind: Kind, value: mixed, most: ?int, options: ?array<array-key,
 *     string>, blank: ?string, pick: ?string, shown: string, empties: bool, was: bool, fixed: bool}
 */
final readonly class EditInputs
{
    /** Objects that are listed to be kept or let go one by one. */
    private const LISTED = 100;

    public function __construct(private Reach $reach)
    {
    }

    /**
     * @param  class-string<Act>  $act
     * @return list<Row>
     */
    public function rows(string $act, DraftEdit $edit): array
    {
        $rows = [];
        foreach ((new \ReflectionClass($act))->getConstructor()?->getParameters() ?? [] as $parameter) {
            $name = $parameter->getName();
            $field = Inputs::of($act)[$name] ?? null;
            if ($field !== null && $field->kind !== Kind::NewId && $field->kind !== Kind::Secret) {
                $rows[] = $this->row($name, $field, $edit->input[$name] ?? null, $parameter->isOptional() && $parameter->allowsNull());
            }
        }

        return $rows;
    }

    /**
     * What was typed, as the act takes it; what the form does not show stays as it was.
     *
     * @param  class-string<Act>  $act
     * @param  array<mixed>  $typed
     * @return array<string, mixed>
     */
    public function read(string $act, DraftEdit $edit, array $typed): array
    {
        $input = $edit->input;
        foreach ($this->rows($act, $edit) as $row) {
            $name = $row['name'];
            if ($row['fixed']) {
                continue;
            }
            $value = $typed[$name] ?? null;
            if ($row['kind'] === Kind::Texts && is_string($value)) {
                $value = array_values(array_filter(array_map(trim(...), explode("\n", $value)), static fn (string $l): bool => $l !== ''));
            }
            $list = in_array($row['kind'], [Kind::Ids, Kind::Texts, Kind::Map], true);
            $emptied = $row['empties'] && is_array($typed['empty'] ?? null) && isset($typed['empty'][$name]);
            $input[$name] = $emptied ? '' : ($value ?? ($list ? [] : null));
        }

        return $input;
    }

    /** @return Row */
    private function row(string $name, Field $field, mixed $value, bool $leaves): array
    {
        $options = $pick = null;
        $was = $field->blank && $value === '';
        $shown = '';
        $fixed = false;
        if ($field->kind === Kind::Choice) {
            $options = array_combine($field->choices, array_map(static fn (string $c): string => $c === '' ? 'none' : $c, $field->choices));
        } elseif ($field->kind === Kind::Flag) {
            $options = ['1' => 'yes', '0' => 'no'];
            $value = is_bool($value) ? (string) (int) $value : $value;
        } elseif ($field->kind === Kind::Id && $field->of !== null) {
            $pick = Picks::offers($field->of) ? $field->of::noun() : null;
            $shown = is_string($value) ? ($this->lines($field->of, [$value])[$value] ?? $value) : '';
            $fixed = $pick === null;
        } elseif ($field->kind === Kind::Ids) {
            $ids = is_array($value) ? array_values(array_filter($value, is_string(...))) : [];
            $fixed = $field->of === null || count($ids) > self::LISTED;
            $shown = count($ids).' of them';
            $options = $fixed ? null : $this->lines($field->of, $ids) + array_combine($ids, array_fill(0, count($ids), 'one that is gone'));
        } elseif ($field->kind === Kind::Texts) {
            $value = is_array($value) ? implode("\n", array_filter($value, is_scalar(...))) : $value;
        }

        return [
            'name' => $name, 'label' => $field->label, 'help' => $field->help, 'kind' => $field->kind, 'value' => $value ?? '',
            'most' => $field->mostTyped(), 'options' => $options, 'blank' => $leaves ? 'leave it' : null, 'pick' => $pick,
            'shown' => $shown, 'empties' => $field->blank, 'was' => $was, 'fixed' => $fixed,
        ];
    }

    /**
     * @param  class-string<Model>  $class
     * @param  list<string>  $ids
     * @return array<string, string> id → how people call it
     */
    private function lines(string $class, array $ids): array
    {
        $lines = [];
        foreach ($this->reach->ofNoun($class::noun())?->whereKey($ids)->get() ?? [] as $row) {
            $lines[$row->id] = $row->line();
        }

        return $lines;
    }
}
