<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Role;
use App\Models\Space;
use App\Queries\Choices;
use App\Queries\Planner;
use App\View\PlanForm;
use HarborPost\Core\Planning\Strategy;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** The planner: from a table of needs to a plan, three ways side by side. */
final class PlannerController extends Controller
{
    /** Bytes of a table that are read. */
    private const MOST = 2 << 20;

    public function __invoke(Request $request, string $space): View
    {
        $this->wholeOnly();
        abort_unless($this->person()->does(Role::Planner), 403);
        $space = Space::query()->findOrFail($space);
        $file = $request->file('file');
        $needs = $file !== null
            && $file->isValid()
                ? (string) file_get_contents($file->getRealPath(), length: self::MOST)
                : self::typed($request, 'needs');
        $needs = mb_check_encoding($needs, 'UTF-8') ? $needs : mb_convert_encoding($needs, 'UTF-8', 'Windows-1252');
        $in = self::typed($request, 'in');
        $strategy = Strategy::tryFrom(self::typed($request, 'strategy')) ?? Strategy::Tight;
        $planner = trim($needs) === '' && trim($in) === '' ? null : Planner::read($space, $in, $needs);
        $plans = [];
        foreach ($planner?->needs === [] || $planner?->wholes === [] ? [] : Strategy::cases() as $case) {
            if ($planner === null) {
                break;
            }
            $plan = $planner->plan($case);
            $plans[$case->value] = ['plan' => $plan, 'form' => PlanForm::of($plan, $planner->wholes)];
        }

        return view('plan.planner', [
            'space' => $space, 'needs' => $needs, 'in' => $in, 'strategy' => $strategy, 'planner' => $planner, 'plans' => $plans,
            'places' => Planner::places($space), 'choices' => new Choices($this->reach()),
            'seen' => $plans === [] ? '' : Planner::fingerprint($plans[$strategy->value]['plan']),
        ]);
    }

    /** What was typed, also after a page that sent it back. */
    private static function typed(Request $request, string $field): string
    {
        $typed = old($field, $request->input($field));

        return is_string($typed) ? $typed : '';
    }
}
