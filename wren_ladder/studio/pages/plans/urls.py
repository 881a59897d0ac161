from django.urls import path

from wren_ladder.studio.pages.plans import breakdown_views, own_bar_views, views

urlpatterns = [
    path("pieces/<int:pk>/break-down/", views.break_down, name="break-down"),
    path("pieces/<int:pk>/give/", views.give_piece, name="give"),
    path("plans/<int:pk>/edit/", views.plan_edit, name="plan-edit"),
    path("plans/<int:pk>/trial/", views.plan_trial, name="plan-trial"),
    path("plans/<int:pk>/delete/", views.plan_delete, name="plan-delete"),
    path("plans/<int:pk>/status/", views.plan_status, name="plan-status"),
    path("plans/<int:pk>/sheet.pdf", views.plan_sheet, name="plan-sheet"),
    path("plans/<int:pk>/wall.pdf", views.wall_chart, name="wall-chart"),
    path("plans/<int:pk>/bars/<int:index>/own/", own_bar_views.own_bar, name="own-bar"),
    path("plans/<int:pk>/steps/", breakdown_views.breakdown, name="plan-steps"),
    path("plans/<int:pk>/revise/", breakdown_views.plan_revise, name="plan-revise"),
    path("plans/<int:pk>/compare/", breakdown_views.compare, name="plan-compare"),
    path("plans/<int:pk>/bars/<int:index>/", breakdown_views.catch_panel, name="catch-panel"),
    path(
        "plans/<int:pk>/bars/<int:index>/built.pdf",
        breakdown_views.built_up_sheet,
        name="built-up",
    ),
    path("plans/<int:pk>/bars/<int:index>/rank/", breakdown_views.bar_rank, name="bar-rank"),
    path("plans/<int:pk>/steps/add/", breakdown_views.step_add, name="step-add"),
    path("steps/<int:pk>/panel/", breakdown_views.step_panel, name="step-panel"),
    path("steps/<int:pk>/edit/", breakdown_views.step_edit, name="step-edit"),
    path("steps/<int:pk>/drop/", breakdown_views.step_drop, name="step-drop"),
    path("steps/<int:pk>/restore/", breakdown_views.step_restore, name="step-restore"),
    path("steps/<int:pk>/place/", breakdown_views.step_place, name="step-place"),
    path("steps/<int:pk>/split/", breakdown_views.step_split, name="step-split"),
    path("steps/<int:pk>/join/", breakdown_views.step_join, name="step-join"),
    path("steps/<int:pk>/repeats/", breakdown_views.step_repeats, name="step-repeats"),
    path("steps/<int:pk>/up/", breakdown_views.step_move, {"way": "up"}, name="step-up"),
    path("steps/<int:pk>/down/", breakdown_views.step_move, {"way": "down"}, name="step-down"),
]
