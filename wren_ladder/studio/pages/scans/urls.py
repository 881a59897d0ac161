from django.urls import path

from wren_ladder.studio.pages.scans import page_views, views

urlpatterns = [
    path("new/", views.scan_new, name="scan-new"),
    path("<int:pk>/", views.scan, name="scan"),
    path("<int:pk>/read/", views.scan_read, name="scan-read"),
    path("<int:pk>/bars/<int:place>/", views.scan_bar, name="scan-bar"),
    path("<int:pk>/draw/<int:place>/", views.scan_draw, name="scan-draw"),
    path("<int:pk>/beside/", page_views.scan_beside, name="scan-beside"),
    path("<int:pk>/key/", views.scan_key, name="scan-key"),
    path("<int:pk>/look/", views.scan_look, name="scan-look"),
    path("<int:pk>/keep/", views.scan_keep, name="scan-keep"),
    path("<int:pk>/discard/", views.scan_discard, name="scan-discard"),
    path("<int:pk>/pages/", page_views.scan_add, name="scan-add"),
    path("<int:pk>/pages/<int:number>/", page_views.scan_page, name="scan-page"),
    path("<int:pk>/pages/<int:number>/lines/", page_views.scan_lines, name="scan-lines"),
    path("<int:pk>/pages/<int:number>/sheet/", page_views.scan_sheet, name="scan-sheet"),
    path("<int:pk>/pages/<int:number>/take/", page_views.scan_take, name="scan-take"),
    path("<int:pk>/pages/<int:number>/<slug:which>.jpg", page_views.scan_jpg, name="scan-jpg"),
]
