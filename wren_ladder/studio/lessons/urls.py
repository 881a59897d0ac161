from django.urls import path

from wren_ladder.studio.lessons import views

urlpatterns = [
    path("pieces/<int:pk>/break-down/", views.break_down, name="break-down"),
    path("pieces/<int:pk>/give/", views.give_piece, name="give"),
    path("plans/<int:pk>/edit/", views.plan_edit, name="plan-edit"),
    path("plans/<int:pk>/delete/", views.plan_delete, name="plan-delete"),
    path("plans/<int:pk>/sheet.pdf", views.plan_sheet, name="plan-sheet"),
    path("plans/<int:pk>/steps/", views.plan_steps, name="plan-steps"),
    path("plans/<int:pk>/steps/add/", views.step_add, name="step-add"),
    path("steps/<int:pk>/edit/", views.step_edit, name="step-edit"),
    path("steps/<int:pk>/drop/", views.step_drop, name="step-drop"),
    path("steps/<int:pk>/restore/", views.step_restore, name="step-restore"),
    path("steps/<int:pk>/move/up/", views.step_move, {"way": "up"}, name="step-up"),
    path("steps/<int:pk>/move/down/", views.step_move, {"way": "down"}, name="step-down"),
]
