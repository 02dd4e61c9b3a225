"""Where everything is."""

from django.urls import path, re_path

from bulwark.bench import views as bench
from bulwark.devices import views as devices
from bulwark.flow import views as flow
from bulwark.kitchens import views as kitchens
from bulwark.lessons import views as lessons
from bulwark.people import views as people
from bulwark.recipes import views as recipes
from bulwark.records import views as records
from bulwark.shelf import views as shelf
from bulwark.workbench import views as workbench

urlpatterns = [
    # First, because every tap of every bench and every look of every screen goes through these.
    path("b/entries/", bench.entries, name="bench_entries"),
    path("lessons/<int:lesson_id>/wall/fragment/", lessons.wall_fragment, name="wall_fragment"),
    path("", lessons.today, name="today"),
    path("empty/", people.empty, name="empty"),
    path("sign-in/", people.SignIn.as_view(), name="sign_in"),
    path("sign-out/", people.SignOut.as_view(), name="sign_out"),
    path("unit/", lessons.set_unit, name="set_unit"),
    path("recipes/", recipes.recipe_list, name="recipes"),
    path("recipes/bring/", recipes.recipe_bring, name="recipe_bring"),
    path("recipes/write/", recipes.recipe_write, name="recipe_write"),
    path("recipes/<int:recipe_id>/", recipes.recipe_detail, name="recipe_detail"),
    path("recipes/<int:recipe_id>/write/", recipes.recipe_write, name="recipe_rewrite"),
    path("recipes/<int:recipe_id>/lines/", recipes.recipe_lines, name="recipe_lines"),
    path("recipes/<int:recipe_id>/lines/<int:line>/", recipes.recipe_line, name="recipe_line"),
    path("recipes/<int:recipe_id>/steps/", recipes.recipe_steps, name="recipe_steps"),
    path("recipes/<int:recipe_id>/steps/edit/", recipes.recipe_edit, name="recipe_edit"),
    path("recipes/<int:recipe_id>/confirm/", recipes.recipe_confirm, name="recipe_confirm"),
    path("recipes/<int:recipe_id>/amounts/", recipes.recipe_amounts, name="recipe_amounts"),
    path("recipes/<int:recipe_id>/eaters/", recipes.recipe_eaters, name="recipe_eaters"),
    path("recipes/<int:recipe_id>/swap/", recipes.recipe_swap, name="recipe_swap"),
    path("recipes/<int:recipe_id>/variants/", recipes.recipe_variants, name="recipe_variants"),
    path("recipes/<int:recipe_id>/cost/", recipes.recipe_cost, name="recipe_cost"),
    path("recipes/<int:recipe_id>/lesson/", lessons.lesson_new, name="lesson_new"),
    path("recipes/<int:recipe_id>/recipe.json", recipes.recipe_json, name="recipe_json"),
    path("recipes/<int:recipe_id>/recipe.md", recipes.recipe_markdown, name="recipe_markdown"),
    path("recipes/<int:recipe_id>/recipe.pdf", recipes.recipe_pdf, name="recipe_pdf"),
    path("recipes/<int:recipe_id>/flow/", flow.recipe_flow, name="recipe_flow"),
    path("recipes/<int:recipe_id>/flow/ways/", flow.flow_ways, name="flow_ways"),
    path("recipes/<int:recipe_id>/flow/apply/", flow.flow_apply, name="flow_apply"),
    path("recipes/<int:recipe_id>/flow/beside/<int:other_id>/", flow.flow_pair, name="flow_pair"),
    re_path(
        r"^recipes/(?P<recipe_id>\d{1,9})/flow/beside/(?P<other_id>\d{1,9})/drawing\.(?P<ending>svg|pdf)$",
        flow.flow_pair_drawing,
        name="flow_pair_drawing",
    ),
    path("recipes/<int:recipe_id>/flow/live/", flow.flow_live, name="flow_live"),
    path("recipes/<int:recipe_id>/flow/allergens/", flow.flow_allergens, name="flow_allergens"),
    path("recipes/<int:recipe_id>/flow.svg", flow.flow_svg, name="flow_svg"),
    path("recipes/<int:recipe_id>/flow.pdf", flow.flow_pdf, name="flow_pdf"),
    path("workbench/", workbench.workbench, name="workbench"),
    path("workbench/shared/<str:token>/", workbench.shared, name="workbench_shared"),
    path("workbench/log/live/", workbench.log_live, name="log_live"),
    path("workbench/<slug:slug>/", workbench.tool, name="workbench_tool"),
    path("workbench/<slug:slug>/attach/", workbench.attach, name="workbench_attach"),
    path("lessons/<int:lesson_id>/sheets/", workbench.lesson_sheets, name="lesson_sheets"),
    path("lessons/<int:lesson_id>/sheets/<int:sheet_id>/off/", workbench.sheet_detach, name="sheet_detach"),
    path("cold/", devices.cold, name="cold"),
    path("cold/alarms/", devices.alarms, name="alarms"),
    path("cold/add/", devices.instrument_add, name="instrument_add"),
    path("cold/<int:instrument_id>/", devices.store_change, name="store_change"),
    path("cold/<int:instrument_id>/log.csv", devices.store_csv, name="store_csv"),
    path("cold/<int:instrument_id>/bring/", devices.store_bring, name="store_bring"),
    path("devices/readings/", devices.take_in, name="take_in"),
    path("lessons/<int:lesson_id>/cold-hot/", devices.keep, name="keep"),
    path("kitchen/", kitchens.kitchen, name="kitchen"),
    path("kitchen/equipment/", kitchens.equipment, name="equipment"),
    path("kitchen/price/", kitchens.price, name="price"),
    path("kitchen/bulk/", kitchens.bulk, name="bulk"),
    path("rules/", kitchens.rules, name="rules"),
    path("rules/limit/", kitchens.limit, name="limit"),
    path("lessons/<int:lesson_id>/", lessons.lesson_detail, name="lesson_detail"),
    path("lessons/<int:lesson_id>/plan/", lessons.plan, name="plan"),
    path("lessons/<int:lesson_id>/plan/profile/", lessons.plan_profile, name="plan_profile"),
    path("lessons/<int:lesson_id>/open/", lessons.lesson_open, name="lesson_open"),
    path("lessons/<int:lesson_id>/close/", lessons.lesson_close, name="lesson_close"),
    path("lessons/<int:lesson_id>/wall/", lessons.wall_page, name="wall"),
    path("lessons/<int:lesson_id>/live/", lessons.wall_live, name="wall_live"),
    path("benches/<int:bench_id>/", lessons.bench_detail, name="bench_detail"),
    path("benches/<int:bench_id>/flow/", flow.bench_flow, name="bench_flow"),
    path("benches/<int:bench_id>/flow.svg", flow.bench_flow_svg, name="bench_flow_svg"),
    path("benches/<int:bench_id>/flow.pdf", flow.bench_flow_pdf, name="bench_flow_pdf"),
    path("benches/<int:bench_id>/entry/", lessons.bench_entry, name="bench_entry"),
    path("lessons/<int:lesson_id>/record/", records.record, name="record"),
    path("lessons/<int:lesson_id>/record/fragment/", records.record_fragment, name="record_fragment"),
    path("lessons/<int:lesson_id>/record.csv", records.record_csv, name="record_csv"),
    path("lessons/<int:lesson_id>/record.pdf", records.record_pdf, name="record_pdf"),
    path("shelf/<int:bench_id>/<str:food>/", shelf.label, name="label"),
    path("join/", bench.join, name="join"),
    path("j/<str:code>/", bench.join_code, name="join_code"),
    path("b/", bench.screen, name="bench"),
    path("b/screen/", bench.screen_fragment, name="bench_fragment"),
    path("b/live/", bench.live, name="bench_live"),
    path("b/leave/", bench.leave, name="bench_leave"),
    path("b/label/<str:food>/", shelf.bench_label, name="bench_label"),
    path("b/probe/", devices.probe_reading, name="probe_reading"),
]

handler404 = "bulwark.lessons.views.not_found"
